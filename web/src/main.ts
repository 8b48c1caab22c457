import './look/library'
import './look/tokens.css'
import { createApp } from 'vue'
import App from './App.vue'
import { useTheme } from './look/useTheme'
import { router } from './router'

useTheme()
createApp(App).use(router).mount('#app')
