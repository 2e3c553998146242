import { newSigningSecret } from '../store/connections'
import type { Workspace } from './workspace'

/** Services outside that rules may ask. */

const bare = (address: string): string => address.replace(/\/+$/, '')

export function addConnection(
  workspace: Workspace,
  name: string,
  address: string,
  headers: Readonly<Record<string, string>>,
): { readonly id: number; readonly secret: string } {
  const secret = newSigningSecret()
  const id = workspace.store.connections.add(name, bare(address), { signing: secret, headers })
  workspace.tellCatalogue()
  return { id, secret }
}

interface Change {
  readonly name?: string | undefined
  readonly address?: string | undefined
  readonly headers?: Readonly<Record<string, string>> | undefined
  readonly archived?: boolean | undefined
  readonly newSecret?: true | undefined
}

/** Changes what is given. Headers are given with their values or not at all: nobody can read those that are there. */
export function changeConnection(
  workspace: Workspace,
  id: number,
  { name, address, headers, archived, newSecret }: Change,
): { readonly secret: string | null } {
  const { connections } = workspace.store
  const before = workspace.catalogue().connection(id)
  const kept = connections.secrets(id)
  if (!before) return { secret: null }
  const secret = newSecret || !kept ? newSigningSecret() : kept.signing
  connections.change(id, name ?? before.name, bare(address ?? before.address), {
    signing: secret,
    headers: headers ?? kept?.headers ?? {},
  })
  if (archived !== undefined) connections.archive(id, archived)
  workspace.tellCatalogue()
  return { secret: newSecret ? secret : null }
}
