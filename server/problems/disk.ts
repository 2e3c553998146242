import { statfsSync } from 'node:fs'
import { dirname } from 'node:path'
import { sayBytes } from '../../core/records/retention'
import { defineProblem } from './problem'

const FREE_LEAST = 0.05
const BYTES_LEAST = 500_000_000

/** How much of the disk is free on which the workspace lies; told as full where somebody says so, for trying it out. */
function freeOf(file: string): { readonly free: number; readonly whole: number } {
  const said = process.env.SKY_LEVER_FREE_BYTES
  const { bavail, blocks, bsize } = statfsSync(dirname(file))
  return { free: said === undefined ? bavail * bsize : Number(said), whole: blocks * bsize }
}

/** The disk is nearly full: nothing could be written any more. */
export const disk = defineProblem({
  kind: 'disk',
  title: 'Disk nearly full',
  fix: 'Make room on the disk, or keep things for a shorter time (Data, Storage).',
  find(workspace) {
    const { free, whole } = freeOf(workspace.dbFile)
    return free >= BYTES_LEAST && free >= whole * FREE_LEAST
      ? []
      : [{ key: 'disk', says: `Only ${sayBytes(free)} are free on the disk`, count: 1, path: '/data/storage' }]
  },
})
