import { useRef, useState } from 'react'
import { FileTrigger } from 'react-aria-components/FileTrigger'
import { Problem } from '../../api/client'
import { bring, onOverOff } from '../../api/recordings'
import type { Rig, Value } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { Icon } from '../../marks/marks'
import { usePlace } from '../../state/place'
import { Button, IconButton } from '../../ui/controls'
import { Fold } from '../../ui/Fold'
import { NumberField } from '../../ui/fields'
import { signed } from '../../ui/figures'
import { Figure, Muted, Row } from '../../ui/layout'
import { Select } from '../../ui/Select'
import { keysOf, stopsOf } from '../order/chain'
import { settingOf } from '../order/lit'

/** Levels the player measured of blocks: they go before what is modelled. */
export function Measured({ rig }: { rig: Rig }) {
  const { plan, here, recipe } = usePlace()
  const edit = useEdit()
  const stops = stopsOf(plan)
  const able = keysOf(here?.path ?? []).filter((k) => plan.variables.some((v) => v.key === `${k}/on`))
  const [picked, pick] = useState<string | undefined>()
  const latest = useRef(picked)
  latest.current = picked
  const [files, setFiles] = useState<{ on?: string; off?: string }>({})
  const [refused, refuse] = useState<string | undefined>()
  const levels = rig.levels ?? []
  const put = (block: string, db: number | undefined) =>
    edit.change('rigs', rig.id, `Measured level of ${stops.get(block)?.name ?? block}`, (r) => {
      const at: Record<string, Value> = {}
      for (const v of plan.variables) {
        if (!v.key.startsWith(`${block}/`) || v.switch) continue
        const now = settingOf(r, recipe, v).value
        if (typeof now === 'number' || typeof now === 'string') at[v.key] = now
      }
      return {
        ...r,
        levels: [
          ...(r.levels ?? []).filter((l) => l.block !== block),
          ...(db === undefined ? [] : [{ block, on_over_off_db: db, at }]),
        ],
      }
    })
  // The files are taken one by one, each beside the other as it is by then.
  const taken = useRef<{ on?: string; off?: string }>({})
  const show = (next: { on?: string; off?: string }) => {
    taken.current = next
    setFiles(next)
  }
  const take = async (side: 'on' | 'off', list: FileList | null) => {
    const file = list?.[0]
    if (!file || !picked) return
    refuse(undefined)
    const block = picked
    try {
      const { id } = await bring(file)
      if (block !== latest.current) return // another block was chosen meanwhile
      const next = { ...taken.current, [side]: id }
      show(next)
      if (next.on && next.off) {
        show({})
        await put(block, await onOverOff(next.on, next.off))
      }
    } catch (e) {
      refuse(e instanceof Problem ? e.message : 'It could not be read.')
    }
  }
  return (
    <Fold title={`Measured levels (${levels.length})`}>
      {levels.map((l) => (
        <Row key={l.block}>
          <span>
            {stops.get(l.block)?.name ?? l.block}: on is <Figure>{signed(l.on_over_off_db)} dB</Figure> over
            off
          </span>
          <IconButton
            label={`Forget the level of ${stops.get(l.block)?.name}`}
            onPress={() => put(l.block, undefined)}
          >
            <Icon name="cross" />
          </IconButton>
        </Row>
      ))}
      <Row>
        <Select
          label="Block"
          value={picked}
          options={able.map((k) => ({ id: k, name: stops.get(k)?.name ?? k }))}
          onChange={(k) => {
            pick(k)
            show({})
          }}
          placeholder="choose"
        />
        {picked && (
          <>
            <NumberField
              label="On over off, dB"
              width={110}
              min={-60}
              max={60}
              value={levels.find((l) => l.block === picked)?.on_over_off_db}
              onCommit={(db) => put(picked, db)}
            />
            <FileTrigger acceptedFileTypes={['audio/wav', '.wav']} onSelect={(f) => void take('on', f)}>
              <Button>{files.on ? 'On: taken' : 'Or a WAV with it on'}</Button>
            </FileTrigger>
            <FileTrigger acceptedFileTypes={['audio/wav', '.wav']} onSelect={(f) => void take('off', f)}>
              <Button>{files.off ? 'Off: taken' : 'and one with it off'}</Button>
            </FileTrigger>
          </>
        )}
      </Row>
      {refused && <Muted role="alert">{refused}</Muted>}
      <Muted>The knobs count as they stand now. Play the same thing both times.</Muted>
    </Fold>
  )
}
