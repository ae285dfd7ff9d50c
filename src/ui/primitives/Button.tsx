'use client'
import { Tooltip } from 'radix-ui'
import { type ButtonHTMLAttributes, type ReactNode, useRef, useState } from 'react'

export function Tip({
  text,
  keys,
  side = 'bottom',
  children,
}: {
  text: string
  keys?: string
  side?: 'bottom' | 'top' | 'left' | 'right'
  children: ReactNode
}) {
  const [shown, setShown] = useState(false)
  const button = useRef<HTMLButtonElement>(null)
  /** None comes up beside what the button has open: a menu that opened on the press leaves the pointer waiting over it. */
  const show = (next: boolean) => setShown(next && !button.current?.matches('[aria-haspopup][aria-expanded=true]'))
  return (
    <Tooltip.Root delayDuration={350} open={shown} onOpenChange={show}>
      <Tooltip.Trigger asChild ref={button}>
        {children}
      </Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content
          side={side}
          sideOffset={6}
          className="z-50 max-w-64 rounded-md bg-[var(--ink)] px-2.5 py-1.5 text-xs text-[var(--panel)] shadow-md"
        >
          {text}
          {keys && <kbd className="ml-2 font-mono text-[11px] opacity-70">{keys}</kbd>}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  )
}

/** A button with only an icon: `label` names it. Why it cannot work now goes into `why`, and is said on hover. */
export function IconButton({
  label,
  keys,
  why,
  children,
  className = '',
  ...rest
}: { label: string; keys?: string; why?: string } & ButtonHTMLAttributes<HTMLButtonElement>) {
  return (
    <Tip text={why ?? label} keys={why ? undefined : keys}>
      <button
        type="button"
        aria-label={label}
        aria-disabled={why ? true : undefined}
        {...rest}
        onClick={why ? undefined : rest.onClick}
        className={`grid size-8 shrink-0 place-items-center rounded-md text-[var(--ink)] hover:bg-[var(--hover)] aria-disabled:opacity-35 aria-disabled:hover:bg-transparent ${className}`}
      >
        {children}
      </button>
    </Tip>
  )
}

export function Button({
  tone = 'plain',
  why,
  className = '',
  children,
  ...rest
}: { tone?: 'plain' | 'accent' | 'danger'; why?: string } & ButtonHTMLAttributes<HTMLButtonElement>) {
  const tones = {
    plain: 'border border-[var(--line)] bg-[var(--panel)] hover:bg-[var(--hover)]',
    accent: 'bg-[var(--accent)] text-white hover:brightness-110',
    danger: 'bg-[#a31515] text-white hover:brightness-110',
  }
  const button = (
    <button
      type="button"
      {...rest}
      aria-disabled={why ? true : undefined}
      onClick={why ? undefined : rest.onClick}
      className={`inline-flex min-h-9 items-center justify-center gap-2 rounded-lg px-3 text-[13px] font-semibold leading-tight aria-disabled:cursor-default aria-disabled:opacity-45 ${tones[tone]} ${className}`}
    >
      {children}
    </button>
  )
  return why ? <Tip text={why}>{button}</Tip> : button
}
