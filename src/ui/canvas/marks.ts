/** User Timing marks, the newest of each name: the journeys read when the picture in view was complete, at which scale, and when its overlay came. */
export function mark(name: 'wily:picture' | 'wily:overlay' | 'wily:cover', scale?: number): void {
  performance.clearMarks(name)
  performance.mark(name, { detail: scale })
}
