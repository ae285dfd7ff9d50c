/** Days and times as the editor's language writes them. What writes them is made when it is first asked to: reading a language's rules takes up to a tenth of a second. */
function writes(options: Intl.DateTimeFormatOptions): (at: string | number) => string {
  let made: Intl.DateTimeFormat | undefined
  return (at) => (made ??= new Intl.DateTimeFormat(undefined, options)).format(new Date(at))
}
export const dayOf = writes({ day: 'numeric', month: 'short', year: 'numeric' })
export const timeOf = writes({ hour: '2-digit', minute: '2-digit' })

/** Orders points in time as the server tells them, which need no language's rules. */
export const newestFirst = (a: string, b: string): number => (a < b ? 1 : a > b ? -1 : 0)
