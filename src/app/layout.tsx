import '@fontsource-variable/hanken-grotesk/index.css'
import '@fontsource-variable/jetbrains-mono/index.css'
import './globals.css'
import { type Metadata, type Viewport } from 'next'
import { THEME_SCRIPT } from '@/ui/primitives/themeScript'

export const metadata: Metadata = {
  description: 'Cut out, replace, compose: every step stays editable.',
}
export const viewport: Viewport = { width: 'device-width', initialScale: 1 }

export default function Layout({ children }: { children: React.ReactNode }) {
  return (
    <html lang="en" suppressHydrationWarning>
      <head>
        <script dangerouslySetInnerHTML={{ __html: THEME_SCRIPT }} />
      </head>
      <body>{children}</body>
    </html>
  )
}
