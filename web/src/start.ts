import { createApp } from 'vue'
import { useMe } from './access/useMe'
import App from './App.vue'
import { useTheme } from './look/useTheme'
import { fetchAhead } from './frame/ahead'
import { router } from './router'

useTheme()
// who looks is asked for while the page is fetched
void useMe().load()
const app = createApp(App).use(router)
// not before the address is read: a link made without it would lose what is picked and when
void router.isReady().then(() => {
  app.mount('#app')
  fetchAhead(router)
})
