import type { Kind, TypedChip } from '../../api/types'

/** A text with the part between two bytes of it replaced. */
export function replaced(text: string, from: number, to: number, by: string): string {
  const bytes = new TextEncoder().encode(text)
  const words = new TextDecoder()
  return words.decode(bytes.slice(0, from)) + by + words.decode(bytes.slice(to))
}

/** What is typed in place of a chip, so that it is of another kind: its name and its figures stay. */
export function typedAs(chip: TypedChip, kind: Pick<Kind, 'name'>): string {
  const figures = [
    chip.volts === undefined ? '' : `${chip.volts}V`,
    chip.ma === undefined ? '' : `${chip.ma}mA`,
    chip.size ? `${chip.size.width_mm}x${chip.size.depth_mm}` : '',
    chip.weight_g === undefined ? '' : `${chip.weight_g}g`,
    chip.colour ?? '',
    chip.bypass ? `${chip.bypass} bypass` : '',
    chip.note ? `(${chip.note})` : '',
  ].filter(Boolean)
  const count = chip.count > 1 ? `${chip.count} x ` : ''
  const loop = chip.loop ? `${chip.loop} ` : ''
  return `${loop}${chip.name} = ${count}${[...figures.filter((f) => f === chip.colour), kind.name, ...figures.filter((f) => f !== chip.colour)].join(' ')}`
}
