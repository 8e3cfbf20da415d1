import { useMemo } from 'react'
import { answer, client } from '../api/client'
import type { Aggregates, Collection, Gear, RigEdit } from '../api/types'
import { useNotices } from '../state/notices'
import type { Outcome } from './desk'
import { cellOf, kindOf } from './plan'
import { useDesk } from './useDesk'

/** The edits of a repair, to be carried out as one. */
interface RepairEdits {
  rig: string
  destination?: string
  label: string
  edits: RigEdit[]
  gear?: Gear
}

/** What is said of many sections at once; what is absent stays as it is. */
export interface Marking {
  singing?: boolean
  bars?: number
  rest_beats?: number
}

/** Something new, of whatever collection. */
type Added<K extends Collection = Collection> = { [A in K]: { kind: A; value: Aggregates[A] } }[K]

/** Something that is changed; the update must be pure and make no ids. */
type Changed<K extends Collection = Collection> = {
  [A in K]: { kind: A; id: string; update: (value: Aggregates[A]) => Aggregates[A] }
}[K]

/** What the screens change the plan with. Every change shows at once and is put back, with the reason,
 * when the server refuses it. */
export function useEdit() {
  const desk = useDesk()
  const { tell } = useNotices()
  return useMemo(() => {
    const reported = async (work: Promise<Outcome>, again?: () => Promise<Outcome>): Promise<Outcome> => {
      const outcome = await work
      if (outcome.problem)
        tell(outcome.problem, outcome.problem.conflict?.reason === 'changed' ? again : undefined)
      return outcome
    }
    const version = (kind: Collection, id: string) => cellOf(desk.shown(), kind, id)?.version ?? 0
    const amend = (label: string, added: Added[], changed: Changed[], from?: string): Promise<Outcome> => {
      const put = added.map((x) => ({ kind: kindOf[x.kind], id: x.value.id, add: x.value }))
      const rest = changed.flatMap((x) => {
        const ops = desk.operations(
          x.kind,
          x.id,
          x.update as (value: Aggregates[Collection]) => Aggregates[Collection],
        )
        return ops?.length ? [{ kind: kindOf[x.kind], id: x.id, ops }] : []
      })
      return reported(desk.amend(label, [...put, ...rest], from))
    }
    return {
      /** Change one thing as it is shown now. The update must be pure and make no ids; from is what an
       * answer that is taken up was computed from. */
      change<K extends Collection>(
        kind: K,
        id: string,
        label: string,
        update: (value: Aggregates[K]) => Aggregates[K],
        from?: string,
      ): Promise<Outcome> {
        const send = () => desk.change(kind, id, label, update)
        return reported(desk.change(kind, id, label, update, from), send)
      },
      /** Add something new and change something for it, as one. */
      addAnd: <A extends Collection, K extends Collection>(
        label: string,
        added: Added<A>,
        changed: Changed<K>,
        from?: string,
      ): Promise<Outcome> => amend(label, [added as Added], [changed as unknown as Changed], from),
      /** Add several new things and change others for them, as one. */
      amend,
      /** Add something new. */
      add: <K extends Collection>(kind: K, label: string, value: Aggregates[K]) =>
        reported(desk.amend(label, [{ kind: kindOf[kind], id: value.id, add: value }])),
      /** Remove something; refused while it is in use. */
      remove(kind: Collection, id: string, name: string) {
        const seen = version(kind, id)
        return reported(
          desk.amend(`Remove ${name}`, [
            { kind: kindOf[kind], id, remove: true, version: seen || undefined },
          ]),
        )
      },
      /** Carry out the edits of a repair, all of them or none; undone as one. */
      carryOut: (body: RepairEdits, from: string | undefined) =>
        reported(
          desk.write({
            label: body.label,
            amendments: [],
            from,
            send: (header) =>
              answer(
                client.POST('/api/edits', {
                  params: { header },
                  body: { ...body, label: body.label.slice(0, 200) },
                }),
              ),
          }),
        ),
      /** Carry a change of a show's night over to its rig, or leave it to that night. */
      decide: (show: string, fix: number, text: string, keep: boolean) =>
        reported(
          desk.write({
            label: text,
            amendments: [],
            send: (header) => {
              const init = { params: { header, path: { id: show, fix } }, body: { text } }
              return answer(
                keep
                  ? client.POST('/api/shows/{id}/fixes/{fix}/keep', init)
                  : client.POST('/api/shows/{id}/fixes/{fix}/leave', init),
              )
            },
          }),
        ),
      /** Write a fresh battery down for a show; its hours begin anew. */
      freshBattery: (show: string, gear: string) =>
        reported(
          desk.write({
            label: 'Fresh battery',
            amendments: [],
            send: (header) =>
              answer(
                client.POST('/api/shows/{id}/batteries/{gear}', {
                  params: { header, path: { id: show, gear } },
                }),
              ),
          }),
        ),
      /** Bring a version of a thing back, as a new one. */
      restore(kind: Collection, id: string, to: number) {
        const read = version(kind, id)
        return reported(
          desk.write({
            label: 'Bring back',
            amendments: [],
            send: (header) =>
              answer(
                client.POST('/api/revisions/{id}/restore', {
                  params: { header, path: { id } },
                  body: { version: to, read },
                }),
              ),
          }),
        )
      },
      /** Make the plan what it is in a copy. */
      bringBack: (copy: string) =>
        reported(
          desk.write({
            label: 'Bring back a copy',
            amendments: [],
            send: (header) =>
              answer(client.POST('/api/copies/{name}/restore', { params: { header, path: { name: copy } } })),
          }),
        ),
      /** Put the fewest times that serve the set into the presets of its devices. */
      storeTimes: (rig: string, setList: string, from: string | undefined, sound?: string) =>
        reported(
          desk.write({
            label: 'Store the times of the set',
            amendments: [],
            from,
            send: (header) =>
              answer(
                client.POST('/api/tempo/store', {
                  params: { header },
                  body: { rig, set_list: setList, sound },
                }),
              ),
          }),
        ),
      /** Say something of every section of a name, in the songs of a set list or in all. */
      markSections: (label: string, said: Marking, setList: string | undefined) =>
        reported(
          desk.write({
            label: `Mark every ${label}`,
            amendments: [],
            send: (header) =>
              answer(
                client.POST('/api/sections', {
                  params: { header },
                  body: { label, set_list: setList, ...said },
                }),
              ),
          }),
        ),
      undo: (transaction?: number) => reported(desk.turn('undo', transaction)),
      redo: () => reported(desk.turn('redo')),
      loadDemo: () =>
        reported(
          desk.write({
            label: 'Load the demo',
            amendments: [],
            send: async () => ({ transaction: (await answer(client.POST('/api/demo'))).transaction ?? 0 }),
          }),
        ),
      /** Reads what was changed by other means, such as a file that was taken in. */
      settle: async () => {
        await desk.sync()
        await desk.refresh()
      },
    }
  }, [desk, tell])
}

export type Edit = ReturnType<typeof useEdit>
