/** What page and server both know of a batch's pictures. */

export const PICTURE_STATES = ['new', 'queued', 'running', 'done', 'failed'] as const
export type PictureState = (typeof PICTURE_STATES)[number]
export const PICTURE_ORDERS = ['number', 'name', 'doubt'] as const
export type PictureOrder = (typeof PICTURE_ORDERS)[number]
/** So many are made to see before the rest is started. */
export const TRIED = 3
/** Rows that come at a time. */
export const ROWS_AT_ONCE = 200
