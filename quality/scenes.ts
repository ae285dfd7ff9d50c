/** One process's share of the scenes: a line of JSON for each answer, on the standard output. */
import '@/core/network/withAllWeights'
import { readScene } from './scene'
import { TASKS } from './tasks'

const [tasks, ...folders] = process.argv.slice(2)
for (const folder of folders) {
  const scene = await readScene(folder)
  for (const task of tasks.split(',')) {
    const started = performance.now(),
      answer = TASKS[task].run(scene)
    if (answer)
      console.log(
        JSON.stringify({
          scene: scene.name,
          family: scene.family,
          task,
          answer,
          ms: Math.round(performance.now() - started),
        }),
      )
  }
}
