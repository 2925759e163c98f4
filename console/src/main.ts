import { createPinia } from 'pinia'
import PrimeVue from 'primevue/config'
import { createApp } from 'vue'
import App from './App.vue'
import './looks.css'
import './looks'
import { tidal } from './preset'
import { makeRouter } from './router'
import { useSession } from './session'

const nonce = document.querySelector<HTMLMetaElement>('meta[property=csp-nonce]')?.nonce ?? ''
const app = createApp(App)
app.use(createPinia())
app.use(PrimeVue, {
  csp: { nonce },
  theme: { preset: tidal, options: { darkModeSelector: '.dark', cssLayer: false } }
})
const session = useSession()
try {
  await session.load()
} catch {
  // The sign-in page says what is wrong when it is used.
}
app.use(makeRouter(session))
app.mount('#app')
