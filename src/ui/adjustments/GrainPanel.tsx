'use client'
import { Switch } from '@/ui/primitives/Choice'
import { type AdjustmentPanelProps } from './panel'

export function GrainPanel({ record, settle }: AdjustmentPanelProps<'grain'>) {
  return (
    <Switch label="Coloured" checked={record.coloured} onChange={(coloured) => settle('Change grain', { coloured })} />
  )
}
