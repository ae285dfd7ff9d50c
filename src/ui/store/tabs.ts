/** Which tabs of this browser are open: each holds a lock under its name for as long as it lives. */
const PREFIX = 'wily tab '

/** @param name the tab's; @param until the lock is held until then; for good where it is left out */
export function holdTab(name: string = crypto.randomUUID(), until: Promise<void> = new Promise(() => {})): string {
  void navigator.locks?.request(`${PREFIX}${name}`, () => until)
  return name
}
export async function livingTabs(): Promise<Set<string>> {
  const held = (await navigator.locks?.query())?.held ?? []
  return new Set(held.flatMap(({ name }) => (name?.startsWith(PREFIX) ? [name.slice(PREFIX.length)] : [])))
}
