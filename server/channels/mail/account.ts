import { z } from 'zod'

/** By what server mails go out, and under which domain answers come in. */
export const zMailAccount = z.strictObject({
  host: z.string().trim().min(1).max(253),
  port: z.int().min(1).max(65_535),
  security: z.enum(['tls', 'startTls', 'none']),
  user: z.string().max(200),
  password: z.string().max(500),
  /** The domain whose mail this workspace receives; empty where answers go to the senders. */
  replyDomain: z.string().trim().max(253),
  /** Signs what goes out (RFC 6376). */
  dkim: z
    .strictObject({
      domain: z.string().trim().min(1).max(253),
      selector: z.string().trim().min(1).max(63),
      privateKey: z.string().min(1).max(8000),
    })
    .nullable(),
})
export type MailAccount = z.infer<typeof zMailAccount>
