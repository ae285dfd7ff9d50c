'use client'
/** What menus are made of: all look and open alike, and none runs off the screen. */
import { Check } from 'lucide-react'
import { DropdownMenu } from 'radix-ui'
import { type ComponentProps, type ReactNode } from 'react'
import { Tip } from './Button'

const PLACED = { sideOffset: 4, collisionPadding: 8 } as const
const classes = (...names: (string | undefined)[]): string => names.filter(Boolean).join(' ')

/** A button with a tip, and what it opens. @param face what is on it @param tip what it says of itself, where that is more than its label */
export const MenuButton = ({
  label,
  tip = label,
  face,
  className,
  children,
  ...root
}: {
  label: string
  tip?: string
  face: ReactNode
  className: string
  children: ReactNode
} & Pick<ComponentProps<typeof DropdownMenu.Root>, 'open' | 'onOpenChange'>) => (
  <DropdownMenu.Root {...root}>
    <Tip text={tip}>
      <DropdownMenu.Trigger aria-label={label} className={className}>
        {face}
      </DropdownMenu.Trigger>
    </Tip>
    {children}
  </DropdownMenu.Root>
)

export const MenuSheet = ({ className, ...rest }: ComponentProps<typeof DropdownMenu.Content>) => (
  <DropdownMenu.Portal>
    <DropdownMenu.Content {...PLACED} className={classes('menu', className)} {...rest} />
  </DropdownMenu.Portal>
)

const ASIDE = 'flex justify-between gap-6'
/** @param keys what does the same on the keyboard; room is kept for it where it is empty */
export const MenuItem = ({
  keys,
  className,
  children,
  ...rest
}: ComponentProps<typeof DropdownMenu.Item> & { keys?: string }) => (
  <DropdownMenu.Item className={classes('menu-item', keys === undefined ? '' : ASIDE, className)} {...rest}>
    {keys ? (
      <>
        {children}
        <kbd className="font-mono text-[11px] text-[var(--muted)]">{keys}</kbd>
      </>
    ) : (
      children
    )}
  </DropdownMenu.Item>
)

export const MenuCheck = ({ children, ...rest }: ComponentProps<typeof DropdownMenu.CheckboxItem>) => (
  <DropdownMenu.CheckboxItem className={classes('menu-item', ASIDE)} {...rest}>
    {children}
    <DropdownMenu.ItemIndicator>
      <Check size={14} />
    </DropdownMenu.ItemIndicator>
  </DropdownMenu.CheckboxItem>
)

export const MenuLine = () => <DropdownMenu.Separator className="my-1 h-px bg-[var(--line)]" />

export const SubMenu = ({ name, disabled, children }: { name: string; disabled?: boolean; children: ReactNode }) => (
  <DropdownMenu.Sub>
    <DropdownMenu.SubTrigger className={classes('menu-item', ASIDE)} disabled={disabled}>
      {name}
      <span aria-hidden>›</span>
    </DropdownMenu.SubTrigger>
    <DropdownMenu.Portal>
      <DropdownMenu.SubContent {...PLACED} className="menu">
        {children}
      </DropdownMenu.SubContent>
    </DropdownMenu.Portal>
  </DropdownMenu.Sub>
)
