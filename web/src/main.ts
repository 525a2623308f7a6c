import './parts/example'
import './theme/reset.css'
import '@fontsource-variable/source-sans-3/wght.css'
import '@fontsource-variable/source-sans-3/wght-italic.css'
import { PiniaColada } from '@pinia/colada'
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import App from './App.vue'
import { router } from './router'
import './theme/base.css'
import { vuetify } from './theme/vuetify'

// A carer's page stands by itself: of the rest it knows nothing.
const visit = /^(?:\/example)?\/visit\/([^/]+)/.exec(location.pathname)
const root = visit
  ? createApp((await import('./places/visit/VisitPage.vue')).default, { token: visit[1] })
  : createApp(App)

root
  .use(createPinia())
  .use(PiniaColada, { queryOptions: { staleTime: 2000 } })
  .use(vuetify)
  .use(router)
  .mount('#app')
