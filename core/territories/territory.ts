import type { Group } from '../conditions/document'

/** Who covers the companies that meet some conditions. */
export interface Territory {
  readonly id: number
  readonly name: string
  /** About companies. */
  readonly filter: Group
  readonly personId: string
}
