/** Projects from outside (the network, a file): read by their schema, then checked for what their records say of each other. Refused in one sentence. */
import { RecordError } from '@/core/fields/record'
import { type Step } from '@/core/steps/registry'
import { type KeptScene, type Layer, type Project, projectSchema } from './records'
import { ProjectError, read } from './schema'
import { sceneNames } from './tree'

export { ProjectError }

/** Every scene that is looked at must be there, and none may look at itself by way of others. */
function checkScenes(scenes: readonly KeptScene[], layers: readonly Layer[], steps: readonly Step[]): void {
  const names = new Map(scenes.map((scene) => [scene.id, sceneNames(scene.layers)]))
  const need = (name: string) => {
    if (!names.has(name)) throw new ProjectError(`scenes: the scene ${name} that steps look at is not there.`)
  }
  sceneNames(layers, steps).forEach(need)
  // Scenes in an order in which each comes after those it looks at; what is left looks at itself.
  let open = [...names]
  for (const [, looked] of open) looked.forEach(need)
  for (let done = new Set<string>(); open.length;) {
    const ready = open.filter(([, looked]) => looked.every((name) => done.has(name)))
    if (!ready.length) throw new ProjectError(`scenes: the scene ${open[0][0]} looks at itself.`)
    done = new Set([...done, ...ready.map(([id]) => id)])
    open = open.filter(([id]) => !done.has(id))
  }
}

/** Records of any earlier form are completed. Throws ProjectError. */
export function parseProject(value: unknown): Project {
  if ((value as { version?: unknown } | null)?.version !== 1) throw new ProjectError('project.version: takes 1.')
  const project = read(projectSchema, value, '')
  checkScenes(
    project.scenes ?? [],
    project.layers,
    [project.selection, ...project.saved.map((each) => each.recipe)].flatMap((recipe) => recipe.steps),
  )
  if (project.activeLayer !== null && !project.layers.some((layer) => layer.id === project.activeLayer))
    throw new ProjectError('activeLayer: takes the id of a layer, or null.')
  return project
}

export const isRecordError = (error: unknown): error is Error =>
  error instanceof ProjectError || error instanceof RecordError
