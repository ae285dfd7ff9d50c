import { length, number } from '../../fields/fields'
import { type Adjustment, gaussianReach } from './adjustment'

/**
 * Light from one side, as on round things: `stops` lighter where the outline of what it lies on faces the light, as much darker where it turns away, and
 * as it was in the middle. `angle`: where light comes from, degrees clockwise from above. `radius`: how far in from the outline it is seen, px.
 * That a thing is rounded in from its outline: Johnston, "Lumo: illumination for cel animation", NPAR 2002; here the outline's normals are the slope of
 * its blurred cover.
 */
export const sideLight: Adjustment<'sideLight', { stops: number; angle: number; radius: number }> = {
  kind: 'sideLight',
  values: 'linear',
  // The slope is taken over a quarter of sigma more.
  reach: ({ radius }) => gaussianReach(radius) + radius / 8,
  fields: { stops: number(0, 4, 0), angle: number(-180, 180, -90), radius: length(200) },
  rows({ stops, angle, radius }, { width }, _, surround) {
    if (stops === 0) return null
    const turned = (angle * Math.PI) / 180,
      facing = surround.facing(radius / 2, Math.sin(turned), -Math.cos(turned))
    return (row, y) => {
      for (let i = 0, j = y * width; i < row.length; i += 4, j++) {
        const gain = 2 ** (stops * facing[j])
        row[i] *= gain
        row[i + 1] *= gain
        row[i + 2] *= gain
      }
    }
  },
}
