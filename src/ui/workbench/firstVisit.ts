/** The demo's photo to start on (server/prepare.ts). */
const DEMO = '00000000-0000-4000-8000-00000000a000'
const STORE = 'wily-scissor first steps'

/** True on the demo's photo, until they are hidden. */
export function showsFirstSteps(project: string): boolean {
  try {
    return project === DEMO && localStorage.getItem(STORE) !== 'hidden'
  } catch {
    return false // a browser that keeps nothing could not be told for good
  }
}
export function forgetFirstSteps(): void {
  try {
    localStorage.setItem(STORE, 'hidden')
  } catch {
    /* they come again */
  }
}
