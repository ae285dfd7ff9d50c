/**
 * Requests that another web page makes in the editor's browser are none of theirs: a name that was re-bound to this machine (Host), a page of
 * another origin (Origin, Sec-Fetch-Site). Source: Fetch Metadata Request Headers (W3C); RFC 9110 sections 7.2 and 10.
 */
/** Names this server answers to, without ports. WILY_HOSTS adds others, by commas. */
const hosts = (): readonly string[] => [
  '127.0.0.1',
  'localhost',
  '[::1]',
  ...(process.env.WILY_HOSTS ?? '').split(',').map((name) => name.trim().toLowerCase()),
]
const nameOf = (host: string): string => host.toLowerCase().replace(/:\d+$/, '')

/** Why a request is refused; undefined where it is one of our own page's, or of no page at all. */
export function foreign(headers: Headers): string | undefined {
  const host = headers.get('host'),
    origin = headers.get('origin'),
    site = headers.get('sec-fetch-site')
  if (!host || !hosts().includes(nameOf(host)))
    return 'This server does not answer to that name. Open it by the address bin/start prints, or list the name in WILY_HOSTS.'
  if (origin !== null && origin.toLowerCase().replace(/^https?:\/\//, '') !== host.toLowerCase())
    return 'Another web page asked for this, which is not let in.'
  if (site !== null && site !== 'same-origin' && site !== 'none')
    return 'Another web page asked for this, which is not let in.'
  return undefined
}
