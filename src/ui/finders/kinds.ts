import { type FindingStep } from '@/core/select/registry'

export type FinderKind = FindingStep['kind']
/** A finder on the page. */
export type FinderId = 'rectangle' | 'ellipse' | 'triangle' | 'band' | 'freehand' | 'corners' | 'bezier' | 'similarColour' | 'palette' | 'colourSpot' | 'paint' | 'gradient' | 'liveWire' | 'edgeBand' | 'edgePaint' | 'spread' | 'roughBox' | 'marks' | 'regions' | 'subject' | 'sky'
