import '../../core/language/refusals/of-server'
import type { Problem } from '../../core/language/problems'
import { RefusedError } from './workspace'

/** What is thrown where one thing is wrong, with its place. */
export const refuse = (path: string, problem: Problem): RefusedError => new RefusedError([{ path, problem }])
