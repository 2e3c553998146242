import type { Db } from '../db/connect'
import { standInMailbox } from '../stand-ins/mailbox'
import type { Channels } from './channel'
import { mail } from './mail'

/** Every channel there is, with the simulated other side that ships with the product. */
export const openChannels = (db: Db): Channels => ({ mail: mail(standInMailbox(db)) })
