import '@fontsource-variable/bricolage-grotesque'
import '@fontsource-variable/instrument-sans'
import '@fontsource-variable/sometype-mono'
import './theme/base.css'
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import App from './App.vue'
import { reportMissingPart, reportTrouble } from './composables/trouble.ts'
import { router } from './router.ts'

const app = createApp(App).use(createPinia()).use(router)
app.config.errorHandler = reportTrouble
// A part of the application that is fetched when it is first used is not there any more: it was built anew, or the server is away.
window.addEventListener('vite:preloadError', () => reportMissingPart())
app.mount('#app')
