import { answer, client, sendAsItIs } from './client'

export interface TakenIn {
  id: string
  meter: { lufs?: number; peak_dbfs: number; true_peak_dbtp: number; seconds: number }
}

/** Brings a WAV file to be metered or played through a rig. It is kept for a while, not saved. */
export const bring = (file: File) => sendAsItIs<TakenIn>('/api/recordings', 'audio/wav', file)

/** How much louder the first recording is than the second, of the same playing. */
export const onOverOff = (on: string, off: string) =>
  answer(client.GET('/api/recordings/compare', { params: { query: { on, off } } })).then(
    (x) => x.on_over_off_db,
  )
