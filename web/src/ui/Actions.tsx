import { type KeyboardEvent, type ReactNode, useRef, useState } from 'react'
import { Button } from './controls'
import { ActMenu } from './floats'
import { goOn } from './Select'

export interface Act {
  id: string
  name: string
  run: () => void
  disabled?: boolean
}

/** A button that opens a menu of things to do. The menu is drawn while it is open. */
export function Actions({
  label,
  acts,
  children,
  plain,
  strong,
  onOpen,
}: {
  label: string
  /** What there is to do; a function is asked when the menu is opened. */
  acts: Act[] | (() => Act[])
  children: ReactNode
  plain?: boolean
  strong?: boolean
  onOpen?: () => void
}) {
  const [open, setOpen] = useState<{ at: 'first' | 'last'; acts: Act[] } | undefined>()
  const trigger = useRef<HTMLButtonElement>(null)
  const show = (at: 'first' | 'last') => {
    setOpen({ at, acts: typeof acts === 'function' ? acts() : [] })
    onOpen?.()
  }
  const shown = typeof acts === 'function' ? (open?.acts ?? []) : acts
  return (
    <>
      <Button
        ref={trigger}
        aria-label={label}
        aria-haspopup="menu"
        aria-expanded={open !== undefined}
        $plain={plain}
        $strong={strong}
        onPress={() => show('first')}
        onKeyDown={(e: KeyboardEvent) => {
          if (e.key === 'ArrowDown') show('first')
          else if (e.key === 'ArrowUp') show('last')
          else goOn(e)
        }}
      >
        {children}
      </Button>
      {open && (
        <ActMenu label={label} acts={shown} at={open.at} trigger={trigger} hide={() => setOpen(undefined)} />
      )}
    </>
  )
}
