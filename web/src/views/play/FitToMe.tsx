import { useCallback, useEffect, useRef, useState } from 'react'
import styled from 'styled-components'
import { Problem } from '../../api/client'
import type { PlayFeet, PlayScript, PlayStep } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { useNotices } from '../../state/notices'
import { useChosen } from '../../state/place'
import { useIsStand } from '../../state/role'
import { Button } from '../../ui/controls'
import { Figure, Muted, Row } from '../../ui/layout'
import type { usePedals } from './usePedals'
import { usePlayed } from './usePlayed'

const lengthS = 120
const longestS = 4

/** A drill between pairs of switches that fits the foot-timing model. It is kept only where feet were
 * measured: on pedals that were learnt, at spacings that were entered. */
export function FitToMe({ script, pedals }: { script: PlayScript; pedals: ReturnType<typeof usePedals> }) {
  const { rig } = useChosen()
  const edit = useEdit()
  const stand = useIsStand()
  const { tell } = useNotices()
  const { fit } = usePlayed()
  const [target, aim] = useState<number | undefined>()
  const [moves, count] = useState<PlayStep[]>([])
  const [result, show] = useState<PlayFeet | undefined>()
  const [feet, onFeet] = useState(true)
  const from = useRef<{ index: number; stamp: number } | undefined>(undefined)
  const began = useRef(0)
  const learnt = new Set(Object.values(pedals.learnt))
  const onPedals = script.switches.filter((s) => learnt.has(s.key))
  const switches = onPedals.length >= 3 ? onPedals : script.switches
  const running = target !== undefined

  const another = useCallback(
    (not: number) => {
      let n = not
      while (n === not) n = Math.floor(Math.random() * switches.length)
      return n
    },
    [switches.length],
  )
  const end = useCallback(
    (list: PlayStep[]) => {
      aim(undefined)
      from.current = undefined
      fit
        .mutateAsync(list)
        .then(show)
        .catch((e) => tell(e instanceof Problem ? e : new Problem(0, undefined)))
    },
    [fit, tell],
  )
  const hit = useCallback(
    (key: string, stamp: number, pedal: boolean) => {
      if (target === undefined || switches[target]?.key !== key) return
      const last = from.current
      const to = switches[target]
      const was = last && switches[last.index]
      if (!pedal) onFeet(false)
      if (last && was && to) {
        const seconds = (stamp - last.stamp) / 1000
        if (seconds > 0 && seconds < longestS) {
          const list = [...moves, { from: was.key, to: to.key, seconds }]
          count(list)
          if (performance.now() - began.current > lengthS * 1000) return end(list)
        }
      }
      from.current = { index: target, stamp }
      aim(another(target))
    },
    [target, switches, moves, another, end],
  )
  // While the drill runs, presses of pedals and keys are moves of the foot.
  useEffect(() => {
    if (!running) return
    const down = (e: KeyboardEvent) => {
      if (e.repeat) return
      const pedal = pedals.learnt[`key:${e.key}`]
      if (pedal) hit(pedal, e.timeStamp, true)
    }
    window.addEventListener('keydown', down)
    return () => window.removeEventListener('keydown', down)
  }, [running, pedals.learnt, hit])

  if (!rig) return null
  const keepable = !stand && feet && result?.measured
  return (
    <div>
      <Muted>
        For two minutes, press the switch that is shown, then the next, as fast as you do it on stage. Touches
        and number keys train the memory; only pedals under your feet, at spacings you entered in Step, tell
        how you move.
      </Muted>
      {!running ? (
        <Row>
          <Button
            $strong
            isDisabled={switches.length < 3}
            onPress={() => {
              count([])
              show(undefined)
              onFeet(true)
              began.current = performance.now()
              aim(0)
            }}
          >
            Begin the drill
          </Button>
          {switches.length < 3 && <Muted as="span">Three switches or more are needed.</Muted>}
        </Row>
      ) : (
        <Row style={{ alignItems: 'center' }}>
          <Target
            type="button"
            onPointerDown={(e) => hit(switches[target]?.key ?? '', e.timeStamp, false)}
            aria-label={`Press ${switches[target]?.gear} ${switches[target]?.label}`}
          >
            {switches[target]?.gear}{' '}
            {switches[target]?.label !== switches[target]?.gear && switches[target]?.label}
          </Target>
          <Figure>{moves.length} moves</Figure>
          <Button onPress={() => end(moves)}>Enough</Button>
        </Row>
      )}
      {result && (
        <div role="group" aria-label="Your feet">
          <p>
            A move takes <Figure>{(result.sum_s * 1000).toFixed(0)} ms</Figure> with the press, and{' '}
            <Figure>{(result.b_s * 1000).toFixed(0)} ms</Figure> more for every doubling of the distance.{' '}
            {result.words}
          </p>
          {keepable ? (
            <Button
              $strong
              onPress={() =>
                edit.change('rigs', rig.id, 'Feet as they were measured', (r) => ({
                  ...r,
                  profile: { ...r.profile, a_s: result.profile.a_s, b_s: result.profile.b_s },
                }))
              }
            >
              Keep it as my feet
            </Button>
          ) : (
            <Muted>
              {stand
                ? 'A stand cannot keep it: drill on the device that Envex runs on.'
                : !feet
                  ? 'Not everything was played on pedals, so it cannot be kept.'
                  : result.why}
            </Muted>
          )}
        </div>
      )}
    </div>
  )
}

const Target = styled.button`
  min-width: 240px; min-height: 84px; font: 600 32px/1.1 var(--face-label); background: var(--lit); color: var(--onLit); border: 0; cursor: pointer;
`
