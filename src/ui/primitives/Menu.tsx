'use client'
/** What menus are made of: all look and open alike, and none runs off the screen. */
import { Check } from 'lucide-react'
import { DropdownMenu } from 'radix-ui'
import { type ComponentProps, type ReactNode } from 'react'
import { Tip } from './Button'

const PLACED = { sideOffset: 4, collisionPadding: 8 } as const
const classes = (...names: (string | undefined)[]): string => names.filter(Boolean).join(' ')

/** Not modal: that would have the whole page's style computed anew at every opening and closing. What lies beside it is covered instead (MenuSheet). */
export const Menu = (props: ComponentProps<typeof DropdownMenu.Root>) => <DropdownMenu.Root modal={false} {...props} />
export const MenuTrigger = DropdownMenu.Trigger

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
  <Menu {...root}>
    <Tip text={tip}>
      <MenuTrigger aria-label={label} className={className}>
        {face}
      </MenuTrigger>
    </Tip>
    {children}
  </Menu>
)

function backToTrigger(event: Event) {
  event.preventDefault()
  const trigger = (event.target as HTMLElement).getAttribute('aria-labelledby')
  if (trigger) document.getElementById(trigger)?.focus()
}
/** A press beside it closes it and does nothing else. */
export const MenuSheet = ({ className, ...rest }: ComponentProps<typeof DropdownMenu.Content>) => (
  <DropdownMenu.Portal>
    <div>
      <div className="menu-cover" onContextMenu={(event) => event.preventDefault()} />
      <DropdownMenu.Content
        {...PLACED}
        className={classes('menu', className)}
        onCloseAutoFocus={backToTrigger}
        {...rest}
      />
    </div>
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

export const MenuGroup = DropdownMenu.Group
export const MenuLabel = ({ children }: { children: ReactNode }) => (
  <DropdownMenu.Label className="px-[9px] py-1 text-xs text-[var(--muted)]">{children}</DropdownMenu.Label>
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
