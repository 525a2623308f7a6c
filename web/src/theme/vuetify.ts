import 'vuetify/styles'
import { createVuetify } from 'vuetify'
import { aliases, mdi } from 'vuetify/iconsets/mdi-svg'

/** The chart's colours. Magenta is for now, lateness and cautions only; sand for care that is done. */
const paper = {
  background: '#f7f2e6',
  surface: '#fcfaf3',
  line: '#ddd4be',
  ink: '#14303d',
  soft: '#4a626e',
  shallow: '#cfe4ec',
  deep: '#8fbfd2',
  magenta: '#9c1458',
  sand: '#cdb37e',
}
const night = {
  background: '#0e2230',
  surface: '#15303f',
  line: '#2b4858',
  ink: '#e9f1f0',
  soft: '#a9c0c6',
  shallow: '#1e4a60',
  deep: '#3f7f99',
  magenta: '#f391bc',
  sand: '#b79b62',
}

function theme(dark: boolean, c: typeof paper) {
  const on = { 'on-background': c.ink, 'on-surface': c.ink, 'on-primary': c.background }
  return {
    dark,
    colors: { ...c, ...on, primary: c.ink, secondary: c.soft, error: c.magenta, warning: c.magenta },
    variables: {
      'high-emphasis-opacity': 1,
      'medium-emphasis-opacity': 0.75,
      'border-color': c.line,
      'border-opacity': 1,
    },
  }
}

export const vuetify = createVuetify({
  theme: { defaultTheme: 'paper', themes: { paper: theme(false, paper), night: theme(true, night) } },
  icons: { defaultSet: 'mdi', aliases, sets: { mdi } },
  defaults: {
    VBtn: { variant: 'outlined', color: 'primary', ripple: false, rounded: 'sm' },
    VTextField: { variant: 'outlined', density: 'compact', color: 'primary', hideDetails: 'auto' },
    VSelect: { variant: 'outlined', density: 'compact', color: 'primary', hideDetails: 'auto' },
    VTextarea: { variant: 'outlined', density: 'compact', color: 'primary', hideDetails: 'auto' },
    VCheckbox: { density: 'compact', color: 'primary', hideDetails: true, ripple: false },
    VCard: { flat: true, border: true, rounded: 'sm' },
    VDialog: { maxWidth: 520 },
    VSnackbar: { location: 'bottom', timeout: 9000, color: 'primary' },
  },
})
