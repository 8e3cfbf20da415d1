import { useKinds } from '../../api/plan'
import type { Block, Gear } from '../../api/types'
import { Row } from '../../ui/layout'
import { Select } from '../../ui/Select'

type ModelAt = NonNullable<Block['model_at']>[number]

/** The circuits a block's sound can be computed by; none where its effect has no choice. */
function useCircuits(block: Block) {
  return useKinds().data?.circuits[block.effect] ?? []
}

/** Which circuit a block's sound is computed by. */
export function Circuit({
  block,
  put,
}: {
  block: Block
  put: (some: Partial<Block>, what: string) => unknown
}) {
  const circuits = useCircuits(block)
  if (circuits.length === 0) return null
  return (
    <Select
      label="Circuit"
      value={block.model ?? unsaid}
      options={[
        { id: unsaid, name: `not given: ${circuits[0]?.name} is assumed` },
        ...circuits.map((m) => ({ id: m.id, name: m.name })),
      ]}
      onChange={(v) => put({ model: v === unsaid ? undefined : v }, 'Circuit')}
    />
  )
}

const unsaid = 'unsaid'

/** Which circuit a block is at each position of a selector: a channel, a kind of reverb, an interval. */
export function CircuitsBySelector({
  gear,
  block,
  patch,
}: {
  gear: Gear
  block: Block
  patch: (update: (b: Block) => Block, what: string) => unknown
}) {
  const circuits = useCircuits(block)
  const selectors = [
    ...(block.controls ?? []),
    ...(gear.controls ?? []).filter((c) => (block.model_at ?? []).some((m) => m.control === c.id)),
  ].filter((c) => c.kind === 'selector')
  if (circuits.length === 0 || selectors.length === 0) return null
  const put = (control: string, is: string, next: Partial<ModelAt> | undefined) =>
    patch((b) => {
      const rest = (b.model_at ?? []).filter((m) => m.control !== control || m.is !== is)
      const now = (b.model_at ?? []).find((m) => m.control === control && m.is === is)
      return next
        ? { ...b, model_at: [...rest, { control, is, model: '', ...now, ...next }] }
        : { ...b, model_at: rest }
    }, 'Circuit')
  const knobs = (block.controls ?? [])
    .filter((c) => c.kind === 'knob')
    .map((c) => ({ id: c.id, name: c.name }))
  return (
    <>
      {selectors.map((c) => (
        <Row key={c.id} role="group" aria-label={`Circuits by ${c.name}`}>
          {(c.options ?? []).map((is) => {
            const now = block.model_at?.find((m) => m.control === c.id && m.is === is)
            return (
              <span key={is} style={{ display: 'contents' }}>
                <Select
                  label={`At ${c.name} ${is}`}
                  value={now?.model ?? unsaid}
                  options={[
                    { id: unsaid, name: 'as the block' },
                    ...circuits.map((m) => ({ id: m.id, name: m.name })),
                  ]}
                  onChange={(v) => put(c.id, is, v === unsaid ? undefined : { model: v })}
                />
                {now && block.effect === 'preamp' && (
                  <>
                    <Select
                      label={`Gain at ${is}`}
                      value={now.gain ?? unsaid}
                      options={[{ id: unsaid, name: 'by its name' }, ...knobs]}
                      onChange={(v) => put(c.id, is, { gain: v === unsaid ? undefined : v })}
                    />
                    <Select
                      label={`Level at ${is}`}
                      value={now.level ?? unsaid}
                      options={[{ id: unsaid, name: 'none' }, ...knobs]}
                      onChange={(v) => put(c.id, is, { level: v === unsaid ? undefined : v })}
                    />
                  </>
                )}
              </span>
            )
          })}
        </Row>
      ))}
    </>
  )
}
