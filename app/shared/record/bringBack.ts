import type { RecordRef } from '#core/records/kinds'
import { send, attempt } from '~/shared/api/api'
import { useNotices } from '~/shared/stores/notices'

/**
 * Brings a record back that was deleted or merged, and says what could not be put as it was. Answers whether it is
 * there again.
 */
export async function bringRecordBack({ object, id }: RecordRef): Promise<boolean> {
  const back = await attempt(() =>
    send<{ stayed: readonly string[] }>('POST', `/api/v1/deleted-records/${object}/${id}`),
  )
  if (back && back.stayed.length > 0)
    useNotices().tell({ tone: 'plain', title: 'Restored, except for', text: back.stayed.join('; ') })
  return back !== null
}
