import { type ReactNode } from 'react'

/** What is worked on, by name, and what can be done with it. */
export function InspectorHead({ name, of, children }: { name: string; of?: string; children?: ReactNode }) {
  return (
    <header className="flex h-10 shrink-0 items-center gap-0.5 border-b border-[var(--line)] pr-2 pl-3">
      <h2 className="mr-auto min-w-0 truncate text-[13px] font-semibold">
        {name}
        {of && <span className="font-normal text-[var(--muted)]"> · {of}</span>}
      </h2>
      {children}
    </header>
  )
}
export function InspectorBody({ children, ...data }: { children: ReactNode } & Record<`data-${string}`, string>) {
  return (
    <div className="min-h-0 flex-1 space-y-2 overflow-y-auto px-3 pt-2 pb-3" {...data}>
      {children}
    </div>
  )
}
