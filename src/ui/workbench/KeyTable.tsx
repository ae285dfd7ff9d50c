/** Every command with its keys; each can be given another one. */
import { useRef, useState } from 'react'
import { SearchField } from '@/ui/primitives/SearchField'
import { giveKeys, keysOf, shownKey, useOwnKeys } from '@/ui/store/ownKeys'
import { type Command } from './command'
import { commandOfKey, keyName } from './commandKeys'
import { COMMANDS, SECTIONS } from './commands'

/** What a browser does not give away. */
const BROWSERS = new Set(['Ctrl+w', 'Ctrl+t', 'Ctrl+n', 'Ctrl+Shift+n', 'Ctrl+Shift+t', 'Ctrl+Shift+w', 'Ctrl+q'])
const HOLDING = new Set(['Control', 'Shift', 'Alt', 'Meta', 'AltGraph'])

const found = (sought: string): readonly Command[] => {
  const words = sought.toLowerCase().split(/\s+/).filter(Boolean)
  return COMMANDS.filter((command) => {
    const text = `${command.name} ${keysOf(command).map(shownKey).join(' ')}`.toLowerCase()
    return words.every((word) => text.includes(word))
  })
}

export function KeyTable() {
  const own = useOwnKeys()
  const [sought, setSought] = useState(''),
    [asked, setAsked] = useState<string | null>(null)
  const commands = found(sought)
  return (
    <>
      <div className="mb-2 flex items-center gap-3 text-[13px]">
        <h3 className="mr-auto font-semibold">Commands</h3>
        {Object.keys(own).length > 0 && (
          <button
            type="button"
            className="rounded-md px-2 py-1 hover:bg-[var(--hover)]"
            onClick={() => giveKeys(Object.fromEntries(Object.keys(own).map((id) => [id, undefined])))}
          >
            All the usual keys again
          </button>
        )}
        <SearchField label="Search commands and keys" value={sought} onChange={setSought} />
      </div>
      {!commands.length && <p className="text-[13px] text-[var(--muted)]">No command of that name.</p>}
      <div className="gap-8 sm:columns-2">
        {SECTIONS.map((section) => {
          const rows = commands.filter((command) => command.section === section)
          return rows.length ? (
            <section key={section} className="mb-4">
              <h4 className="mb-1 text-xs font-semibold text-[var(--muted)]">{section}</h4>
              <ul>
                {rows.map((command) => (
                  <Row
                    key={command.id}
                    command={command}
                    changed={own[command.id] !== undefined}
                    asked={asked === command.id}
                    ask={(on) => setAsked(on ? command.id : null)}
                  />
                ))}
              </ul>
            </section>
          ) : null
        })}
      </div>
    </>
  )
}

function Row({
  command,
  changed,
  asked,
  ask,
}: {
  command: Command
  changed: boolean
  asked: boolean
  ask: (on: boolean) => void
}) {
  const keys = keysOf(command),
    button = useRef<HTMLButtonElement>(null)
  return (
    <li className="break-inside-avoid text-[13px]">
      <div className="flex items-center justify-between gap-4">
        <span className="py-0.5">{command.name}</span>
        <button
          ref={button}
          type="button"
          aria-label={`Keys of ${command.name}: ${keys.map(shownKey).join(' or ') || 'none'}`}
          aria-expanded={asked}
          onClick={() => ask(!asked)}
          className={`min-h-6 min-w-6 shrink-0 rounded px-1.5 font-mono text-[11.5px] hover:bg-[var(--hover)] ${changed ? 'text-[var(--accent-text)]' : 'text-[var(--muted)]'}`}
        >
          {keys.length ? keys.map(shownKey).join(' ') : '–'}
        </button>
      </div>
      {asked && (
        <Asking
          command={command}
          changed={changed}
          done={() => {
            ask(false)
            button.current?.focus()
          }}
        />
      )}
    </li>
  )
}

/** Whether the next key that is pressed is taken as a command's. */
export const isTakingKey = (): boolean => document.activeElement?.matches('[data-takes-key]') ?? false

/** Takes the next key that is pressed. */
function Asking({ command, changed, done }: { command: Command; changed: boolean; done: () => void }) {
  const [pressed, setPressed] = useState<string | null>(null)
  const other = pressed === null ? undefined : commandOfKey(pressed),
    taken = other && other.id !== command.id ? other : undefined,
    browser = pressed !== null && BROWSERS.has(pressed)
  const give = (key: string) => {
    giveKeys({
      ...(taken ? { [taken.id]: keysOf(taken).filter((each) => each !== key) } : {}),
      [command.id]: [key],
    })
    done()
  }
  return (
    <div className="mb-2 rounded-lg bg-[var(--chosen)] p-2 text-xs">
      <input
        readOnly
        autoFocus
        data-takes-key
        aria-label={`New key of ${command.name}`}
        value={pressed === null ? '' : shownKey(pressed)}
        placeholder="Press a key …"
        onKeyDown={(event) => {
          if (event.key === 'Tab') return
          event.preventDefault()
          event.stopPropagation()
          if (HOLDING.has(event.key)) return
          if (event.key === 'Escape') {
            done() // as everywhere: it is no other command's
            return
          }
          const name = keyName(event.nativeEvent)
          const clash = commandOfKey(name)
          if (!BROWSERS.has(name) && (!clash || clash.id === command.id)) {
            giveKeys({ [command.id]: [name] })
            done()
          } else setPressed(name)
        }}
        className="h-7 w-28 rounded-md border border-[var(--line-strong)] bg-[var(--field)] px-2 font-mono"
      />
      <span className="float-right flex gap-1">
        {command.keys && changed && (
          <button
            type="button"
            className="rounded-md px-2 py-1 hover:bg-[var(--hover)]"
            onClick={() => {
              const back = command.keys!,
                now = Object.fromEntries(
                  back.flatMap((key) => {
                    const holder = commandOfKey(key)
                    return holder && holder.id !== command.id
                      ? [[holder.id, keysOf(holder).filter((each) => !back.includes(each))]]
                      : []
                  }),
                )
              giveKeys({ ...now, [command.id]: undefined })
              done()
            }}
          >
            {command.keys.map(shownKey).join(' ')} again
          </button>
        )}
        <button
          type="button"
          className="rounded-md px-2 py-1 hover:bg-[var(--hover)]"
          onClick={() => {
            giveKeys({ [command.id]: [] })
            done()
          }}
        >
          No key
        </button>
        <button type="button" className="rounded-md px-2 py-1 hover:bg-[var(--hover)]" onClick={done}>
          Cancel
        </button>
      </span>
      {(taken || browser) && (
        <p role="alert" className="clear-both pt-2">
          {browser ? (
            `${shownKey(pressed)} belongs to the browser: press another.`
          ) : (
            <>
              {shownKey(pressed!)} is the key of “{taken!.name}”.{' '}
              <button
                type="button"
                className="font-semibold underline underline-offset-2"
                onClick={() => give(pressed!)}
              >
                Take it from there
              </button>
            </>
          )}
        </p>
      )}
    </div>
  )
}
