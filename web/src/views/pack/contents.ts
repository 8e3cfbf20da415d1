import type { Contents } from '../../api/copies'

const some = (n: number, one: string, many: string) => (n === 0 ? '' : `${n} ${n === 1 ? one : many}`)

/** What a database holds, in words. */
export function inWords(c: Contents): string {
  const parts = [
    some(c.gear, 'piece of gear', 'pieces of gear'),
    some(c.sounds, 'sound', 'sounds'),
    some(c.songs, 'song', 'songs'),
    some(c.bands, 'band', 'bands'),
    some(c.set_lists, 'set list', 'set lists'),
    some(c.rigs, 'rig', 'rigs'),
    some(c.shows, 'show', 'shows'),
    some(c.rehearsals, 'rehearsal', 'rehearsals'),
  ].filter((p) => p !== '')
  return parts.length > 0 ? parts.join(', ') : 'nothing'
}

/** A size in kB or MB. */
export const sizeOf = (bytes: number): string =>
  bytes < 1 << 20 ? `${Math.ceil(bytes / 1024)} kB` : `${(bytes / (1 << 20)).toFixed(1)} MB`
