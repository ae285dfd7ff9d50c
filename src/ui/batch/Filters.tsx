'use client'
import { type Batch } from '@/document/exchanged'
import { Choice } from '@/ui/primitives/Choice'
import { NumberField } from '@/ui/primitives/NumberField'
import { SearchField } from '@/ui/primitives/SearchField'
import { PICTURE_ORDERS, PICTURE_STATES, type PictureState } from '@/document/batchRows'
import { type PictureFilter } from '@/ui/store/batches'

export const STATE_WORDS: Readonly<Record<PictureState, string>> = {
  new: 'not made',
  queued: 'waiting',
  running: 'being made',
  done: 'made',
  failed: 'failed',
}

/** Which pictures are listed, and in what order. */
export function Filters({
  batch,
  filter,
  total,
  onChange,
}: {
  batch: Batch
  filter: PictureFilter
  total: number
  onChange: (filter: PictureFilter) => void
}) {
  const all = Object.values(batch.counts).reduce((a, b) => a + b, 0)
  const states = PICTURE_STATES.filter((state) => batch.counts[state] || filter.state === state)
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-2 text-[13px]">
      <Choice
        small
        label="Which pictures"
        value={filter.state ?? 'all'}
        options={[
          ['all', `all ${all}`],
          ...states.map((state) => [state, `${STATE_WORDS[state]} ${batch.counts[state]}`] as const),
        ]}
        onChange={(state) => onChange({ ...filter, state: state === 'all' ? undefined : state })}
      />
      <SearchField
        label="Search pictures by name"
        value={filter.name ?? ''}
        onChange={(name) => onChange({ ...filter, name: name || undefined })}
        className="w-36"
      />
      <label className="flex items-center gap-2">
        doubt from
        <NumberField
          label="Doubt from"
          value={filter.doubt ?? 0}
          min={0}
          max={100}
          unit="%"
          className="w-[64px]"
          onSettle={(doubt) => onChange({ ...filter, doubt: Math.round(doubt) || undefined })}
        />
      </label>
      <span className="flex items-center gap-2">
        by
        <Choice
          small
          label="Order"
          value={filter.order}
          options={PICTURE_ORDERS.map((order) => [order, order] as const)}
          onChange={(order) => onChange({ ...filter, order })}
        />
      </span>
      <span className="ml-auto text-[var(--muted)]" data-total={total}>
        {total} listed
      </span>
    </div>
  )
}
