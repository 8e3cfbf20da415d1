import { answer, client, Problem } from './client'

export interface TakenIn {
  id: string
  meter: { lufs?: number; peak_dbfs: number; true_peak_dbtp: number; seconds: number }
}

/** Brings a WAV file to be metered or played through a rig. It is kept for a while, not saved. */
export async function bring(file: File): Promise<TakenIn> {
  const response = await fetch('/api/recordings', {
    method: 'POST',
    headers: { 'Content-Type': 'audio/wav' },
    body: file,
  }).catch(() => undefined)
  const body = response && (await response.json().catch(() => undefined))
  if (!response?.ok) throw new Problem(response?.status ?? 0, body)
  return body as TakenIn
}

/** How much louder the first recording is than the second, of the same playing. */
export const onOverOff = (on: string, off: string) =>
  answer(client.GET('/api/recordings/compare', { params: { query: { on, off } } })).then(
    (x) => x.on_over_off_db,
  )
