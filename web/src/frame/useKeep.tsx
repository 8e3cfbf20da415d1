import { type ReactNode, useState } from 'react'
import type { Rig } from '../api/types'
import { useEdit } from '../edits/useEdit'
import { AskName } from '../ui/dialogs'

/** Settling findings for good with a reason, and taking that back. */
export function useKeep(rig: Pick<Rig, 'id'> | undefined): {
  keep: (title: string, findings: string[]) => void
  reopen: (title: string, findings: string[]) => void
  dialog: ReactNode
} {
  const edit = useEdit()
  const id = rig?.id
  const [asked, ask] = useState<{ title: string; findings: string[] } | undefined>()
  const settle = (what: string, findings: string[], reason?: string) => {
    if (!id) return
    void edit.change('rigs', id, what, (r) => ({
      ...r,
      settled: [
        ...(r.settled ?? []).filter((s) => !findings.includes(s.finding)),
        ...(reason ? findings.map((finding) => ({ finding, reason })) : []),
      ],
    }))
  }
  const keep = (title: string, findings: string[]) => ask({ title, findings })
  const reopen = (title: string, findings: string[]) => settle(`Reopen: ${title}`, findings)
  return {
    keep,
    reopen,
    dialog: asked && (
      <AskName
        title="Keep it as it is"
        label="Why it is fine as it is"
        action="Keep"
        onDone={(reason) => {
          ask(undefined)
          settle(`Keep: ${asked.title}`, asked.findings, reason)
        }}
        onCancel={() => ask(undefined)}
      />
    ),
  }
}
