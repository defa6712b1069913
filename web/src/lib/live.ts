import type { Schemas } from '../api/client'

/** How the numbers of a revision are being computed; `unreachable` while the server does not answer. */
export type Running = Omit<Schemas['RunningOut'], 'state'> & { state: string; since: number }
/** An answer to the question for a chain: the chain, how its run stands, or neither. */
export interface Asked {
  status: number
  chain?: Schemas['ChainOut']
  running?: Schemas['RunningOut']
  message?: string
}

const ACTIVE = ['waiting', 'running', 'superseded']
export const isActive = (running: Running | null) => !!running && [...ACTIVE, 'unreachable'].includes(running.state)

/** Ask until the chain is there, or nobody computes it, or it is no longer wanted; null then. A server that does not answer is
 * asked again, less and less often. */
export async function follow(
  revision: number,
  ask: () => Promise<Asked>,
  tell: (running: Running) => void,
  wanted: () => boolean,
  pause: (ms: number) => Promise<void> = (ms) => new Promise((done) => setTimeout(done, ms)),
): Promise<Schemas['ChainOut'] | null> {
  const since = Date.now()
  let patience = 250
  while (wanted()) {
    let answer: Asked
    try {
      answer = await ask()
    } catch {
      answer = { status: 0 }
    }
    if (!wanted()) return null
    if (answer.chain) return answer.chain
    if (answer.running) {
      patience = 250
      tell({ ...answer.running, since })
      if (!ACTIVE.includes(answer.running.state)) return null
      if (answer.running.state === 'superseded') await pause(patience)
    } else if (answer.status === 0 || answer.status >= 500) {
      const message = answer.message || 'The server does not answer.'
      tell({ revision, state: 'unreachable', stage: '', done: 0, of: 0, attempts: 1, message, since })
      await pause(patience)
      patience = Math.min(patience * 2, 4000)
    } else {
      const message = answer.message || `The server answered ${answer.status}.`
      tell({ revision, state: 'failed', stage: '', done: 0, of: 0, attempts: 1, message, since })
      return null
    }
  }
  return null
}

const WORDS: Record<string, string> = {
  structure: 'setting out',
  loading: 'loads',
  combinations: 'combinations',
  response: 'response',
  verification: 'verification',
}

/** Where a run is, in a few words. */
export function progress(running: Running): string {
  if (running.state === 'unreachable') return `${running.message} Trying again…`
  if (running.state === 'waiting') return running.attempts > 1 ? 'taken up again' : 'waiting for a worker'
  const stage = WORDS[running.stage] ?? 'starting'
  return running.of ? `${stage} ${running.done} of ${running.of}` : stage
}

/** What stands now, with the numbers of an older chain where its members are still there. */
export function laidUnder(bare: Schemas['ChainOut'], old: Schemas['ChainOut'] | null): Schemas['ChainOut'] {
  if (!old || old.problem) return bare
  const members = new Map(old.members?.map((m) => [m.name, m]))
  const roles = new Map(old.roles?.map((r) => [r.role, r]))
  const geometry = ['nodes', 'node_names', 'supports', 'planes', 'grid', 'levels', 'snags', 'orphans'] as const
  const now = Object.fromEntries(geometry.map((key) => [key, bare[key]]))
  return {
    ...old,
    ...now,
    fingerprints: { ...old.fingerprints, ...bare.fingerprints },
    tonnage: bare.tonnage,
    members: bare.members?.map((m) => {
      const before = members.get(m.name)
      if (!before) return m
      const { status, not_covered, utilisation, governs, combination, checks } = before
      return { ...m, status, not_covered, utilisation, governs, combination, checks }
    }),
    roles: bare.roles?.map((r) => {
      const before = roles.get(r.role)
      return before ? { ...r, worst: before.worst, status: before.status } : r
    }),
  }
}
