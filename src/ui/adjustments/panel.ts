/** What a panel of an adjustment of its own gets. */
import { type AdjustmentKind, type AdjustmentOf } from '@/core/compose/adjustments/registry'

export interface AdjustmentPanelProps<K extends AdjustmentKind> {
  readonly layer: string
  readonly record: AdjustmentOf<K>
  /** Shows other values while they are dragged. */ readonly preview: (values: Partial<AdjustmentOf<K>>) => void
  readonly settle: (label: string, values: Partial<AdjustmentOf<K>>) => void
}
