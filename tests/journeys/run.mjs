/**
 * Runs the browser journeys, two at a time, each on one of two applications: half of a journey is waiting. Usage: node tests/journeys/run.mjs [--measure] [name ...].
 * --measure: those, too, that are there for their figures, and the large sizes; one at a time.
 */
import { execFileSync } from 'node:child_process'
import { setTimeout as wait } from 'node:timers/promises'
import { startApplication } from './application.mjs'
import { endBrowsersOf, journey } from './browser.mjs'
import { badFiles } from './badFiles.mjs'
import { badRequests } from './badRequests.mjs'
import { roomGivenBack } from './roomGivenBack.mjs'
import { openedAgain } from './openedAgain.mjs'
import { olderProject } from './olderProject.mjs'
import { tick } from './tick.mjs'
import { manyChanges } from './manyChanges.mjs'
import { someFaults } from './someFaults.mjs'
import { unsaved } from './unsaved.mjs'
import { canvasIsExport } from './canvasIsExport.mjs'
import { cutOutAndCompose } from './cutOutAndCompose.mjs'
import { databaseGone } from './databaseGone.mjs'
import { largePhoto } from './largePhoto.mjs'
import { threeWays } from './threeWays.mjs'
import { byColour } from './byColour.mjs'
import { byObject } from './byObject.mjs'
import { byOutline } from './byOutline.mjs'
import { byShape } from './byShape.mjs'
import { byTouch } from './byTouch.mjs'
import { kept } from './kept.mjs'
import { layerList } from './layerList.mjs'
import { manyLayers } from './manyLayers.mjs'
import { maskedPictureStays } from './maskedPictureStays.mjs'
import { selectionStays } from './selectionStays.mjs'
import { masksAndTones } from './masksAndTones.mjs'
import { piecesAndMerges } from './piecesAndMerges.mjs'
import { twoPhotos } from './twoPhotos.mjs'
import { accessible } from './accessible.mjs'
import { oneFocus } from './oneFocus.mjs'
import { byKeyboard } from './byKeyboard.mjs'
import { edge } from './edge.mjs'
import { newSky } from './newSky.mjs'
import { largeSky } from './largeSky.mjs'
import { layerMatch } from './layerMatch.mjs'
import { exportKinds } from './exportKinds.mjs'
import { batches } from './batches.mjs'
import { shelf } from './shelf.mjs'
import { library } from './library.mjs'
import { wholeCutOut } from './wholeCutOut.mjs'

const journeys = {
  shelf,
  library,
  wholeCutOut,
  exportKinds,
  batches,
  canvasIsExport,
  maskedPictureStays,
  selectionStays,
  cutOutAndCompose,
  databaseGone,
  badFiles,
  badRequests,
  unsaved,
  olderProject,
  openedAgain,
  someFaults,
  roomGivenBack,
  oneFocus,
  accessible,
  byKeyboard,
  threeWays,
  byShape,
  byOutline,
  byColour,
  byObject,
  edge,
  newSky,
  largeSky,
  layerMatch,
  kept,
  byTouch,
  twoPhotos,
  masksAndTones,
  piecesAndMerges,
  layerList,
  largePhoto,
  manyLayers,
  tick,
  manyChanges,
}
/** No journey takes a quarter of this here; the application is told to end, and ended, in a tenth. */
const LIMIT_MS = 480_000
const SECOND_TRIES = 3
/** Their figures are what they are there for. */
const MEASURING = new Set(['manyLayers', 'tick', 'largeSky'])

const given = process.argv.slice(2),
  measure = given.includes('--measure'),
  wanted = given.filter((name) => name !== '--measure'),
  names = Object.keys(journeys).filter((name) =>
    wanted.length ? wanted.includes(name) : measure || !MEASURING.has(name),
  )
/** What ran when something took too long: the first question there is. */
const processes = () =>
  execFileSync('ps', ['-eo', 'pid,ppid,etimes,pcpu,stat,args', '--cols', '160'], { encoding: 'utf8' })
async function within(limit, what, done) {
  const late = Symbol('late'),
    timer = new AbortController(),
    first = await Promise.race([done, wait(limit, late, { signal: timer.signal }).catch(() => late)]).finally(() =>
      timer.abort(),
    )
  if (first !== late) return first
  console.log(processes())
  await Promise.race([endBrowsersOf(what), wait(limit / 10)])
  throw new Error(`${what} took longer than ${limit / 1000} s`)
}
let passed = 0
/** What fails once on a machine whose time others take is tried again at the end, and named whatever comes of it. */
const again = []
const failures = []
async function take(name, application, last) {
  const started = Date.now(),
    seconds = () => `${((Date.now() - started) / 1000).toFixed(1)} s`
  try {
    const said = await within(
      LIMIT_MS,
      name,
      journey.run(name, () => journeys[name](application, { measure })),
    )
    passed++
    console.log(`ok      ${name} (${seconds()})${said ? `\n        ${said.split('\n').join('\n        ')}` : ''}`)
  } catch (error) {
    const said = error instanceof Error ? (error.stack ?? error.message) : String(error),
      short = `${name}: ${said.split('\n').slice(0, 3).join('\n        ')}`
    if (last) failures.push(short)
    else again.push({ name, short })
    console.log(`${last ? 'FAILED ' : 'AGAIN  '} ${name} (${seconds()})\n        ${said}`)
  }
}
// The first one builds what the second one uses, too.
const applications = [await startApplication()]
if (!measure && names.length > 1) applications.push(await startApplication())
try {
  const waiting = [...names]
  await Promise.all(
    applications.map(async (application) => {
      for (let name; (name = waiting.shift());) await take(name, application, false)
    }),
  )
  // More than a few are no noise.
  if (again.length <= SECOND_TRIES) for (const { name } of again) await take(name, applications[0], true)
  else for (const { short } of again) failures.push(short)
} finally {
  await Promise.all(
    applications.map((application) =>
      within(LIMIT_MS / 10, 'ending the application', application.stop()).catch((error) =>
        failures.push(`the end: ${error.message}`),
      ),
    ),
  )
}
// Once more at the end, where a long log is looked at first.
for (const { short } of again) console.log(`AT FIRST  ${short}`)
for (const failure of failures) console.log(`FAILED  ${failure}`)
console.log(`journeys: ${passed} passed, ${failures.length} failed`)
// At once: what hangs would keep it.
process.exit(failures.length ? 1 : 0)
