import { createPinia } from 'pinia'
import { createApp } from 'vue'
import '@fontsource-variable/hanken-grotesk'
import 'element-plus/es/components/slider/style/css'
import 'element-plus/es/components/progress/style/css'
import 'element-plus/es/components/popover/style/css'
import 'element-plus/es/components/tooltip/style/css'
import 'element-plus/es/components/color-picker-panel/style/css'
import 'element-plus/es/components/dialog/style/css'
import 'element-plus/es/components/select/style/css'
import 'element-plus/es/components/option/style/css'
import 'element-plus/es/components/dropdown/style/css'
import 'element-plus/es/components/dropdown-menu/style/css'
import 'element-plus/es/components/dropdown-item/style/css'
import 'element-plus/es/components/collapse/style/css'
import 'element-plus/es/components/collapse-item/style/css'
import 'element-plus/es/components/input/style/css'
import 'element-plus/es/components/checkbox/style/css'
import 'element-plus/es/components/segmented/style/css'
import 'element-plus/es/components/message/style/css'
import 'element-plus/es/components/skeleton/style/css'
import 'element-plus/es/components/empty/style/css'
import 'element-plus/es/components/radio/style/css'
import 'element-plus/es/components/radio-group/style/css'
import 'element-plus/es/components/radio-button/style/css'
import 'element-plus/es/components/tabs/style/css'
import 'element-plus/es/components/upload/style/css'
import 'element-plus/es/components/switch/style/css'
import 'element-plus/es/components/message-box/style/css'
import './styles/tokens.css'
import './styles/base.css'
import './styles/element.css'
import App from './App.vue'
import { router } from './router'

// A part of the pages that is not there any more belongs to an older version: the page is read anew, once.
window.addEventListener('vite:preloadError', (event) => {
  if (sessionStorage.getItem('read-anew') === window.location.href) return
  sessionStorage.setItem('read-anew', window.location.href)
  event.preventDefault()
  window.location.reload()
})

createApp(App).use(createPinia()).use(router).mount('#app')
