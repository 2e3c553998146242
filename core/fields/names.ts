import type { Catalogue } from './catalogue'
import type { ObjectKind } from '../records/kinds'

/** What sentences are said with. */
export interface Names {
  readonly catalogue: Catalogue
  readonly object: ObjectKind
}
