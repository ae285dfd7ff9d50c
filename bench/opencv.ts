/** OpenCV compiled to WebAssembly, the reference in benchmarks and cross-checks. Development only. */
import { createRequire } from 'node:module'

// eslint-disable-next-line @typescript-eslint/no-explicit-any -- the package's types cover only part of what it exports
export type OpenCv = any

let loaded: Promise<{ cv: OpenCv }> | undefined

/** Wrapped in an object: the module itself looks like a promise that never settles. */
export function openCv(): Promise<{ cv: OpenCv }> {
  return (loaded ??= new Promise((resolve) => {
    const cv = createRequire(import.meta.url)('@techstark/opencv-js')
    if (cv.Mat) resolve({ cv })
    else cv.onRuntimeInitialized = () => resolve({ cv })
  }))
}
