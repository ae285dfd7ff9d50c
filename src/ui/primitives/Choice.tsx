'use client'
import { Switch as RadixSwitch, ToggleGroup } from 'radix-ui'
import { useId } from 'react'

export function Switch({
  label,
  checked,
  onChange,
}: {
  label: string
  checked: boolean
  onChange: (on: boolean) => void
}) {
  const id = useId()
  return (
    <div className="flex items-center gap-2">
      <RadixSwitch.Root
        id={id}
        checked={checked}
        onCheckedChange={onChange}
        className="relative h-[18px] w-8 shrink-0 rounded-full bg-[var(--line-strong)] data-[state=checked]:bg-[var(--ink)]"
      >
        <RadixSwitch.Thumb className="block size-[14px] translate-x-[2px] rounded-full bg-[var(--panel)] transition-transform data-[state=checked]:translate-x-4" />
      </RadixSwitch.Root>
      <label htmlFor={id} className="text-[13px] leading-tight">
        {label}
      </label>
    </div>
  )
}

/** One of many. */
export function Select<T extends string>({
  label,
  value,
  options,
  onChange,
  className = '',
}: {
  label: string
  value: T
  options: readonly (readonly [T, string])[]
  onChange: (value: T) => void
  className?: string
}) {
  return (
    <select
      aria-label={label}
      value={value}
      onChange={(event) => onChange(event.target.value as T)}
      className={`h-7 min-w-0 rounded-md border border-[var(--line-strong)] bg-[var(--field)] px-1.5 text-[12.5px] ${className}`}
    >
      {options.map(([v, name]) => (
        <option key={v} value={v}>
          {name}
        </option>
      ))}
    </select>
  )
}

/** One of a few. */
export function Choice<T extends string | number>({
  label,
  value,
  options,
  onChange,
  small = false,
}: {
  label: string
  value: T
  options: readonly (readonly [T, string])[]
  onChange: (value: T) => void
  small?: boolean
}) {
  return (
    <ToggleGroup.Root
      type="single"
      aria-label={label}
      value={String(value)}
      onValueChange={(next) => {
        const option = options.find(([v]) => String(v) === next)
        if (option) onChange(option[0])
      }}
      className="inline-flex gap-0.5 rounded-lg border border-[var(--line)] bg-[var(--panel)] p-0.5"
    >
      {options.map(([v, name]) => (
        <ToggleGroup.Item
          key={v}
          value={String(v)}
          className={`rounded-md ${small ? 'px-1.5 py-0.5 text-xs' : 'px-2.5 py-1 text-[13px]'} font-medium hover:bg-[var(--hover)] data-[state=on]:bg-[var(--ink)] data-[state=on]:text-[var(--panel)]`}
        >
          {name}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  )
}
