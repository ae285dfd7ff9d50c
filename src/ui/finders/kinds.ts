import { type FindingStep } from '@/core/select/registry'

export type FinderKind = FindingStep['kind']
