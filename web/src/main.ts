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

createApp(App)
  .use(createPinia())
  .use(PiniaColada, { queryOptions: { staleTime: 2000 } })
  .use(vuetify)
  .use(router)
  .mount('#app')
