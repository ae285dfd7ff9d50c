/** Light, dark, or as the system says: what this browser remembers. */
import { create } from 'zustand'
import { THEME_STORE as STORE } from './themeScript'

export const THEMES = ['system', 'light', 'dark'] as const
export type Theme = (typeof THEMES)[number]

function read(): Theme {
  try {
    return THEMES.find((theme) => theme === localStorage.getItem(STORE)) ?? 'system'
  } catch {
    return 'system'
  }
}
export const useTheme = create<{ theme: Theme }>(() => ({ theme: read() }))
export function setTheme(theme: Theme): void {
  useTheme.setState({ theme })
  document.documentElement.dataset.theme = theme
  try {
    localStorage.setItem(STORE, theme)
  } catch {
    /* it holds until the page is closed */
  }
}
