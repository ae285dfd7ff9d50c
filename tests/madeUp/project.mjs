/** Projects made by hand, past the page: records, and how they are stored. */
import { randomUUID } from 'node:crypto'

export const JSON_HEADERS = { 'content-type': 'application/json' }

/** A picture on the server. @returns its SHA-256 */
export async function storePicture(application, file) {
  const answer = await fetch(`${application.url}/api/pictures`, { method: 'POST', body: file })
  if (!answer.ok) throw new Error(`a picture could not be stored: ${answer.status} ${await answer.text()}`)
  return (await answer.json()).asset
}
export const pictureLayer = (id, asset, { width, height }, more = {}) => ({
  id,
  kind: 'picture',
  name: id,
  asset,
  width,
  height,
  placement: [1, 0, 0, 1, 0, 0],
  opacity: 1,
  visible: true,
  mask: null,
  ...more,
})
export const recordsWith = (layers, { width, height }, more = {}) => ({
  version: 1,
  name: 'Made up',
  canvas: { width, height },
  ppi: 300,
  layers,
  activeLayer: layers[0]?.id ?? null,
  selection: { version: 1, steps: [] },
  saved: [],
  paths: [],
  guides: [],
  ...more,
})
/** Sends JSON. Throws what the server says. */
export async function post(application, path, body) {
  const answer = await fetch(`${application.url}/api/${path}`, {
    method: 'POST',
    headers: JSON_HEADERS,
    body: JSON.stringify(body),
  })
  if (!answer.ok) throw new Error(`${path}: ${answer.status} ${await answer.text()}`)
  return answer.json()
}
export async function makeProject(application, records, id = randomUUID()) {
  await post(application, 'projects', { id, records })
  return id
}
/** A renaming as an act. */
export const renaming = (name, before, parent) => ({
  id: randomUUID(),
  parent,
  label: `Rename to ${name}`,
  forward: { fields: { set: { name } } },
  inverse: { fields: { set: { name: before } } },
  at: new Date().toISOString(),
})
