import type { Rig } from '../../api/types'
import { Conflict } from '../../edits/operations'

export interface Where {
  bank: string
  slot: string
}

/** Names of banks and slots as they stand on a device: 2 before 10. */
export const inOrder = (a: string, b: string) => a.localeCompare(b, 'en', { numeric: true })

type Program = NonNullable<Rig['programs']>[string][string][string]

/** The rig with a program of a controller on another slot, and what stood there in its place. The program
 * is the one that was seen, wherever it stands by now. */
export function withProgramAt(
  rig: Rig,
  controller: string,
  program: Program | undefined,
  seen: Where,
  to: Where,
): Rig {
  const own = rig.programs?.[controller] ?? {}
  const at = (w: Where) => own[w.bank]?.[w.slot]
  const is = (p: Program | undefined) =>
    p !== undefined && p.sound === program?.sound && p.label === program?.label
  const seats = Object.entries(own).flatMap(([bank, slots]) =>
    Object.keys(slots).map((slot) => ({ bank, slot })),
  )
  const from = is(at(seen)) ? seen : seats.find((w) => is(at(w)))
  if (!from) throw new Conflict('gone')
  const [moved, other] = [at(from), at(to)]
  const banks = Object.fromEntries(
    [...new Set([...Object.keys(own), to.bank])].map((bank) => [bank, { ...own[bank] }]),
  )
  const put = (w: Where, p: Program | undefined) => {
    const slots = banks[w.bank] ?? {}
    delete slots[w.slot]
    if (p) slots[w.slot] = p
    banks[w.bank] = slots
  }
  put(from, other)
  put(to, moved)
  const used = Object.entries(banks).filter(([, slots]) => Object.keys(slots).length > 0)
  return { ...rig, programs: { ...rig.programs, [controller]: Object.fromEntries(used) } }
}
