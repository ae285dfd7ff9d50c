'use client'
import { useEffect, useState } from 'react'
import { Choice } from './Choice'
import { setTheme, THEMES, useTheme } from './theme'

export function ThemeChoice() {
  const { theme } = useTheme()
  // The server does not know what this browser remembers.
  const [known, setKnown] = useState(false)
  useEffect(() => setKnown(true), [])
  return (
    <Choice
      small
      label="Light or dark"
      value={known ? theme : 'system'}
      options={THEMES.map((each) => [each, each] as const)}
      onChange={setTheme}
    />
  )
}
