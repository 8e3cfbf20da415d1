import createClient from 'openapi-fetch'
import type { components, paths } from './schema.gen'

/** The typed client of the HTTP interface. */
export const client = createClient<paths>({ baseUrl: '' })

type ProblemBody = components['schemas']['ErrorModel'] & { read_version?: number; current_version?: number }

/** A problem document, as an error with sentences for people. */
export class Problem extends Error {
  readonly status: number
  readonly details: { where: string; message: string }[]
  constructor(status: number, body: ProblemBody | undefined) {
    super(body?.detail ?? 'Envex did not answer. Is it still running? Nothing was changed.')
    this.status = status
    this.details = (body?.errors ?? []).map((e) => ({ where: e.location ?? '', message: e.message ?? '' }))
  }
}

/** The answer's data, or its problem thrown. */
export async function answer<T>(
  call: Promise<{ data?: T; error?: ProblemBody; response: Response }>,
): Promise<T> {
  const { data, error, response } = await call.catch(() => {
    throw new Problem(0, undefined)
  })
  if (!response.ok || data === undefined) throw new Problem(response.status, error)
  return data
}

let counter = 0

/** An opaque id that is new. */
export function freshId(): string {
  counter += 1
  const random = crypto.getRandomValues(new Uint32Array(3))
  return `x${Array.from(random, (n) => n.toString(36)).join('')}${counter.toString(36)}`.slice(0, 24)
}
