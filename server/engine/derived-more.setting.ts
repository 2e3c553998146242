import type { RollUp } from '../../core/derived/making'
import { all } from '../../core/testing/rules'
import { makeDerived } from './derived'
import type { Workspace } from './workspace'

export const formula = (workspace: Workspace, label: string, text: string, type = 'number', object = 'deal') =>
  makeDerived(
    workspace,
    { object: object as 'deal', label, description: '', type: type as 'number', made: { by: 'formula', text } },
    'ines',
  )

export const roll = (workspace: Workspace, label: string, spec: Partial<RollUp>, type = 'number') =>
  makeDerived(
    workspace,
    {
      object: 'company',
      label,
      description: '',
      type: type as 'number',
      made: { by: 'rollUp', over: 'deal', what: 'count', field: null, order: null, down: false, where: all(), ...spec },
    },
    'ines',
  )
