/**
 * The library for property tests, with the same draws at each run: what passed passes again. `npm run properties` draws others and says
 * which seed failed; PROPERTY_SEED draws that again.
 */
import fc from 'fast-check'

fc.configureGlobal({ seed: Number(process.env.PROPERTY_SEED ?? 1) })

export default fc
