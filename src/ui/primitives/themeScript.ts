export const THEME_STORE = 'wily-scissor theme'
/** Run before anything is drawn, so that no page comes up in the other theme. */
export const THEME_SCRIPT = `try{document.documentElement.dataset.theme=localStorage.getItem(${JSON.stringify(THEME_STORE)})||'system'}catch{}`
