import { z } from 'zod'
import { sameRef } from '../records/kinds'
import type { WebRequest } from '../web/request'
import { defineEffect } from './effect'

/** A service outside is asked, after the commit. */
export const request = defineEffect({
  kind: 'request',
  category: 'outside',
  left: z.object({ key: z.string(), method: z.string(), path: z.string(), connection: z.number() }),
  needs: () => [],
  apply({ world, record, event, ruleId, runId, stepId }, { request: wanted }: { readonly request: WebRequest }) {
    const own = sameRef(record, event.ref)
    const key = `web-${runId}-${stepId}${own ? '' : `-${record.object}-${record.id}`}`
    world.request(wanted, { ref: { object: record.object, id: record.id }, ruleId, runId, stepId }, key)
    const { method, path, connection } = wanted
    return { key, method, path, connection }
  },
  describe: ({ method, path, connection }, { catalogue }) =>
    `sent ${method} ${path} to ${catalogue.connection(connection)?.name ?? 'a connection'}`,
  undo: ({ method, path }, { left }) => void left.push(`the request ${method} ${path} was sent`),
  summarise: ({ key }) => ({ request: key }),
})
