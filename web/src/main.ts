import './look/library'
import './look/tokens.css'
import { askEarly } from './api/early'
import { PAGES } from './pages'

// all that is needed at first is fetched at once: none of it waits for the rest to be there
askEarly(location)
const later = () => undefined
PAGES[location.pathname]?.().catch(later)
import('./frame/MainFrame.vue').catch(later)
import('./start').catch((e: unknown) => {
  // nothing is there that could say it better
  document.body.textContent =
    'Jam Jar could not fetch its page. Is its server running? Load the page again.'
  throw e
})
