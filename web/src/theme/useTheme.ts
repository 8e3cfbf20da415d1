import { useEffect, useState } from 'react'
import type { ThemeName } from './tokens'

const key = 'envex.theme'

function initial(): ThemeName {
  const kept = localStorage.getItem(key)
  if (kept === 'stage' || kept === 'bench') return kept
  return matchMedia('(prefers-color-scheme: light)').matches ? 'bench' : 'stage'
}

/** The theme in force and how to change it: the system's, until the player has chosen. */
export function useTheme(): [ThemeName, (t: ThemeName) => void] {
  const [theme, setTheme] = useState<ThemeName>(initial)
  useEffect(() => {
    document.documentElement.dataset.theme = theme
  }, [theme])
  return [
    theme,
    (t) => {
      localStorage.setItem(key, t)
      setTheme(t)
    },
  ]
}
