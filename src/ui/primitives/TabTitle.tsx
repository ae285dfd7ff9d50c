/** What the browser calls its tab: what it shows comes first, so that several can be told apart. React puts it into the document's head. */
export const TabTitle = ({ shown }: { shown: string | undefined }) => (
  <title>{shown ? `${shown} · Wily Scissor` : 'Wily Scissor'}</title>
)
