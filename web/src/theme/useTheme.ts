import { useEffect } from 'react'
import { useKept } from '../state/kept'
import type { ThemeName } from './tokens'

const ofTheSystem = (): ThemeName => (matchMedia('(prefers-color-scheme: light)').matches ? 'bench' : 'stage')

/** The theme in force and how to change it: the system's, until the player has chosen. On stage it is dark. */
export function useTheme(onStage: boolean): [ThemeName, (t: ThemeName) => void] {
  const [kept, keep] = useKept('theme')
  const chosen = kept === 'stage' || kept === 'bench' ? kept : ofTheSystem()
  const theme = onStage ? 'stage' : chosen
  useEffect(() => {
    document.documentElement.dataset.theme = theme
  }, [theme])
  return [theme, keep]
}
