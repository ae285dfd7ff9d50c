/** Next.js runs this once in the page, before the page is made. */
import { beginOpening } from './ui/store/early'

const project = /^\/project\/([^/]+)$/.exec(location.pathname)?.[1]
if (project) beginOpening(project)
