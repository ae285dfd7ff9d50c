import type { NextConfig } from 'next'

// Only what is our own is loaded and run; nobody frames it. Next.js starts its pages by inline scripts, the kernels are WebAssembly.
const POLICY = [
  "default-src 'self'",
  "script-src 'self' 'unsafe-inline' 'wasm-unsafe-eval'",
  "style-src 'self' 'unsafe-inline'",
  "img-src 'self' blob: data:",
  "font-src 'self' data:",
  "worker-src 'self' blob:",
  "connect-src 'self' blob:",
  "object-src 'none'",
  "base-uri 'none'",
  "form-action 'self'",
  "frame-ancestors 'none'",
].join('; ')

// Cross-origin isolation gives the page SharedArrayBuffer: decoded pictures are shared between the workers, never copied.
const isolation = [
  { key: 'Cross-Origin-Opener-Policy', value: 'same-origin' },
  { key: 'Cross-Origin-Embedder-Policy', value: 'require-corp' },
  { key: 'Cross-Origin-Resource-Policy', value: 'same-origin' },
  { key: 'Content-Security-Policy', value: POLICY },
  { key: 'X-Content-Type-Options', value: 'nosniff' },
  { key: 'Referrer-Policy', value: 'no-referrer' },
]

const config: NextConfig = {
  reactStrictMode: true,
  poweredByHeader: false,
  typescript: { ignoreBuildErrors: true }, // bin/test checks types; a start need not wait for it
  serverExternalPackages: ['sharp', 'pg', 'pg-boss', 'exifr', '@aws-sdk/client-s3'],
  headers: async () => [{ source: '/:path*', headers: isolation }],
}
export default config
