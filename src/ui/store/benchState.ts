/**
 * What the workbench knows, in four rooms. One store holds them, so that a change of the records and what it means for what is worked on are seen at
 * once; whoever asks names what it needs, and is told of nothing else.
 */
import { initialRecords, type RecordsRoom } from './rooms/records'
import { initialResults, type ResultsRoom } from './rooms/results'
import { initialTool, type ToolRoom } from './rooms/tool'
import { initialView, type ViewRoom } from './rooms/view'

export interface BenchState extends RecordsRoom, ToolRoom, ViewRoom, ResultsRoom {}

export const initial = (id: string): BenchState => ({
  ...initialRecords(id),
  ...initialTool,
  ...initialView,
  ...initialResults,
})
