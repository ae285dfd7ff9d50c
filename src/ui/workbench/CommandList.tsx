/** Every command by its name, to be found by typing. */
import { Command as CommandMenu } from 'cmdk'
import { Dialog } from 'radix-ui'
import { type Command } from './command'
import { COMMANDS, SECTIONS } from './commands'
import { keysOf, shownKey } from '@/ui/store/ownKeys'

export function CommandList({
  open,
  onOpenChange,
  run,
}: {
  open: boolean
  onOpenChange: (open: boolean) => void
  run: (command: Command) => void
}) {
  return (
    <CommandMenu.Dialog
      open={open}
      onOpenChange={onOpenChange}
      label="Commands"
      className="fixed top-[16vh] left-1/2 z-50 w-[460px] max-w-[92vw] -translate-x-1/2 overflow-hidden rounded-xl border border-[var(--line)] bg-[var(--panel)] shadow-2xl"
      overlayClassName="fixed inset-0 z-40 bg-black/25"
    >
      <Dialog.Title className="sr-only">Commands</Dialog.Title>
      <CommandMenu.Input
        placeholder="What do you want to do?"
        className="h-12 w-full border-b border-[var(--line)] bg-transparent px-4 text-sm outline-none"
      />
      <CommandMenu.List className="max-h-80 overflow-y-auto p-2">
        <CommandMenu.Empty className="p-4 text-center text-sm text-[var(--muted)]">
          No command of that name.
        </CommandMenu.Empty>
        <Items run={run} />
      </CommandMenu.List>
    </CommandMenu.Dialog>
  )
}

/** Made when the list is opened. */
const Items = ({ run }: { run: (command: Command) => void }) =>
  SECTIONS.map((section) => (
    <CommandMenu.Group
      key={section}
      heading={section}
      className="[&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:py-1 [&_[cmdk-group-heading]]:text-xs [&_[cmdk-group-heading]]:text-[var(--muted)]"
    >
      {COMMANDS.filter((command) => command.section === section).map((command) => (
        <CommandMenu.Item
          key={command.id}
          value={`${command.name} ${command.id}`}
          onSelect={() => run(command)}
          className="flex cursor-pointer items-center justify-between rounded-md px-2 py-1.5 text-[13px] data-[selected=true]:bg-[var(--chosen)]"
        >
          {command.name}
          <kbd className="font-mono text-[11px] text-[var(--muted)]">{keysOf(command).slice(0, 1).map(shownKey)}</kbd>
        </CommandMenu.Item>
      ))}
    </CommandMenu.Group>
  ))
