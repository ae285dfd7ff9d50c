import { expect, it } from 'vitest'
import { greyPicture } from '../../../tests/setups/greyPicture'
import { plainContext, sceneOf } from '../select/onePicture'
import { finerView, segmentView } from './view'

const viewOf = (width: number, height: number) => {
  const context = plainContext(),
    view = segmentView(
      sceneOf(
        greyPicture(width, height, (x) => x % 256),
        'view',
      ),
      'all',
      context,
    )
  return { view, context }
}

it('a finer view is thought on one level earlier and shares its levels', () => {
  const { view, context } = viewOf(600, 400),
    finer = finerView(view, context)
  expect(view.levels.map(({ width }) => width)).toEqual([600, 300])
  expect(finer.levels).toEqual([view.levels[0]])
  expect([finer.lab.width, finer.lab.height]).toEqual([600, 400])
  expect(finerView(view, context)).toBe(finer)
})

it('where there is no level before, or it is too large, it is the same view', () => {
  for (const [width, height] of [
    [300, 200],
    [1500, 1000],
  ]) {
    const { view, context } = viewOf(width, height)
    expect(finerView(view, context)).toBe(view)
  }
})
