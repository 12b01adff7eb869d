import '@fontsource/barlow/latin-400.css'
import '@fontsource/barlow/latin-ext-400.css'
import '@fontsource/barlow/latin-600.css'
import '@fontsource/barlow/latin-ext-600.css'
import '@fontsource/barlow-semi-condensed/latin-500.css'
import '@fontsource/barlow-semi-condensed/latin-ext-500.css'
import '@fontsource/barlow-semi-condensed/latin-600.css'
import '@fontsource/spline-sans-mono/latin-500.css'
import '@fontsource/spline-sans-mono/latin-600.css'
import './style.css'
import PrimeVue from 'primevue/config'
import { createApp } from 'vue'
import App from './App.vue'
import { router } from './router'
import { ElvarnPreset } from './theme'

createApp(App)
  .use(router)
  .use(PrimeVue, {
    theme: { preset: ElvarnPreset, options: { darkModeSelector: '.night', cssLayer: false } },
  })
  .mount('#app')
