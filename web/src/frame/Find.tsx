import { useEffect, useState } from 'react'
import { Icon } from '../marks/marks'
import { IconButton } from '../ui/controls'
import { later } from '../ui/later'

const FindDialog = later(() => import('./FindDialog').then((m) => m.FindDialog))

/** Find anything: a song or a section of the night, gear, a sound, a show, a sheet, a screen, something to do. */
export function Find() {
  const [open, setOpen] = useState(false)
  useEffect(() => {
    const handle = (e: KeyboardEvent) => {
      if ((e.ctrlKey || e.metaKey) && e.key.toLowerCase() === 'k') {
        e.preventDefault()
        setOpen(true)
      }
    }
    window.addEventListener('keydown', handle)
    return () => window.removeEventListener('keydown', handle)
  }, [])
  return (
    <>
      <IconButton label="Find anything (Ctrl+K)" onPress={() => setOpen(true)}>
        <Icon name="find" />
      </IconButton>
      {open && <FindDialog close={() => setOpen(false)} />}
    </>
  )
}
