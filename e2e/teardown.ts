import { rmSync } from 'node:fs'

/** What the programs of a run have worked out goes with it. */
export default () => {
  if (process.env.ENVEX_E2E_CACHE) rmSync(process.env.ENVEX_E2E_CACHE, { recursive: true, force: true })
}
