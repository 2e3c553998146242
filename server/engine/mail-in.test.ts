import type { AddressInfo } from 'node:net'
import { createTransport } from 'nodemailer'
import { simpleParser, type ParsedMail } from 'mailparser'
import { SMTPServer } from 'smtp-server'
import { afterEach, describe, expect, it } from 'vitest'
import { document } from '../../core/testing/rules'
import { larkmoor, switchOn } from '../testing/workspace'
import { mailReceiver, takeMail } from './mail-in'
import { setMailAccount } from './message-settings'
import type { Workspace } from './workspace'

const closing: (() => Promise<unknown>)[] = []
afterEach(async () => {
  for (const close of closing.splice(0)) await close()
})

const listen = (server: SMTPServer): Promise<number> =>
  new Promise((resolve) => {
    server.on('error', () => undefined)
    server.listen(0, '127.0.0.1', () => resolve((server.server.address() as AddressInfo).port))
    closing.push(() => new Promise<void>((done) => server.close(() => done())))
  })

/** Somebody else’s mail server, which keeps what it is given. */
async function elsewhere(answer: (to: string) => number = () => 250) {
  const received: ParsedMail[] = []
  const server = new SMTPServer({
    authOptional: true,
    disabledCommands: ['STARTTLS', 'AUTH'],
    closeTimeout: 50,
    onRcptTo({ address }, _session, callback) {
      const code = answer(address)
      callback(code === 250 ? null : Object.assign(new Error('no'), { responseCode: code }))
    },
    onData(stream, _session, callback) {
      void simpleParser(stream).then((mail) => {
        received.push(mail)
        callback()
      })
    },
  })
  return { received, port: await listen(server) }
}

function writing() {
  const { workspace, clock } = larkmoor()
  switchOn(
    workspace,
    document({
      object: 'contact',
      when: [['created', {}]],
      then: [
        [
          'sendMessage',
          {
            channel: 'mail',
            to: 'main',
            from: 'owner',
            copy: ['jude'],
            template: null,
            subject: 'Welcome',
            body: 'Good to have **you**.',
            phone: 'phone',
            otherPhone: false,
            again: 0,
            urgent: '',
            answered: false,
            label: '',
          },
        ],
      ],
    }),
  )
  return { workspace, clock }
}
const account = (port: number) => ({
  host: '127.0.0.1',
  port,
  security: 'none' as const,
  user: '',
  password: '',
  replyDomain: 'answers.larkmoor.example',
  dkim: null,
})
const vera = (workspace: Workspace) =>
  workspace.create('contact', { name: 'Vera Lima', email: 'vera@lima.example', owner: 'rosa' }, [], 'ines').ref
const idOf = (mail: ParsedMail | undefined): string => (mail?.messageId ?? '').replace(/^<|>$/g, '')

describe('mail by SMTP', () => {
  it('goes out whole, and its answer by SMTP finds its way back, by name or by the signed address', async () => {
    const { workspace } = writing()
    const { received, port } = await elsewhere()
    setMailAccount(workspace, account(port))
    const ref = vera(workspace)
    expect(await workspace.courier.run()).toBe(1)
    const [mail] = received
    expect(mail?.to).toMatchObject({ value: [{ address: 'vera@lima.example', name: 'Vera Lima' }] })
    expect(mail?.cc).toMatchObject({ value: [{ address: 'jude@larkmoor.example' }] })
    expect(mail?.html).toContain('<strong>you</strong>')
    const reply = mail?.replyTo?.value[0]?.address ?? ''
    expect(reply).toMatch(/^reply\+[\w.-]+@answers\.larkmoor\.example$/)

    const inbox = createTransport({
      host: '127.0.0.1',
      port: await listen(mailReceiver(workspace, (error) => expect.fail(String(error)))),
      ignoreTLS: true,
    })
    const answer = { from: 'vera@lima.example', to: reply, subject: 'Re: Welcome', text: 'Yes please.' }
    await inbox.sendMail({ ...answer, inReplyTo: mail?.messageId ?? '', references: [mail?.messageId ?? ''] })
    // From another address, by a program that forgets what it answers.
    await inbox.sendMail({ ...answer, from: 'vera.home@other.example', text: 'And on Tuesday?' })
    await expect(inbox.sendMail({ ...answer, to: 'somebody@elsewhere.example' })).rejects.toThrow('No such mailbox')
    const rows = workspace.store.messages.ofContactPage(ref.id, 1e9, 9)
    expect(rows.map(({ way, kind, inReplyTo }) => [way, kind, inReplyTo])).toEqual([
      ['in', 'question', idOf(mail)],
      ['in', 'positive', idOf(mail)],
      ['out', null, null],
    ])
    expect(workspace.store.activities.of(ref).map(({ kind }) => kind)).toEqual(['messageSent', 'message', 'message'])
  })

  it('is given up at once where the server refuses it for good, and tried again where it is busy', async () => {
    const { workspace } = writing()
    const { port } = await elsewhere((to) => (to === 'ida@x.example' ? 450 : to === 'vera@lima.example' ? 550 : 250))
    setMailAccount(workspace, account(port))
    vera(workspace)
    await workspace.courier.run()
    expect(workspace.store.messages.newest(1e9, 1)).toMatchObject([{ state: 'failed' }])
    expect(workspace.store.outbox.givenUp()).toBe(1)
    workspace.create('contact', { name: 'Ida', email: 'ida@x.example', owner: 'rosa' }, [], 'ines')
    await workspace.courier.run()
    expect(workspace.store.outbox.pending()).toBe(1)
  })

  it('keeps the password sealed, and what is left empty as it was', () => {
    const { workspace } = larkmoor()
    setMailAccount(workspace, { ...account(25), user: 'us', password: 'very secret' })
    const kept = workspace.db.sqlite.prepare("SELECT value FROM secrets WHERE name = 'mail account'").pluck().get()
    expect(kept).not.toContain('very secret')
    setMailAccount(workspace, { ...account(26), user: 'us', password: '' })
    expect(workspace.store.accounts.mail()).toMatchObject({ port: 26, password: 'very secret' })
  })
})

describe('mail that comes in', () => {
  const lines = (...text: string[]): string => text.join('\r\n')

  it('stops an address whose mail comes back for good (RFC 3464)', async () => {
    const { workspace } = writing()
    vera(workspace)
    await workspace.courier.run()
    const [sent] = workspace.store.messages.newest(1e9, 1)
    const report = lines(
      'From: MAILER-DAEMON@lima.example',
      'To: rosa@larkmoor.example',
      'Subject: Undelivered',
      'MIME-Version: 1.0',
      'Content-Type: multipart/report; report-type=delivery-status; boundary="b"',
      '',
      '--b',
      'Content-Type: text/plain',
      '',
      'It could not be delivered.',
      '--b',
      'Content-Type: message/delivery-status',
      '',
      'Reporting-MTA: dns; mx.lima.example',
      '',
      'Final-Recipient: rfc822; vera@lima.example',
      'Action: failed',
      'Status: 5.1.1',
      'Diagnostic-Code: smtp; 550 5.1.1',
      ' no such user',
      '--b',
      'Content-Type: text/rfc822-headers',
      '',
      `Message-ID: <${sent?.messageId ?? ''}>`,
      '--b--',
      '',
    )
    expect(await takeMail(workspace, report, [])).toBe('bounce')
    expect(workspace.store.addresses.stopped('mail', 'vera@lima.example')).toEqual({
      because: 'bounced',
      how: '550 5.1.1 no such user',
    })
    // What is only late stops nobody.
    const late = report.replace('Action: failed', 'Action: delayed')
    expect(await takeMail(workspace, late.replace('5.1.1\r\n', '4.2.2\r\n'), [])).not.toBe('bounce')
  })

  it.each([
    ['Auto-Submitted: auto-replied', 'automatic'],
    ['Auto-Submitted: no', 'answer'],
    ['Precedence: auto_reply', 'automatic'],
    ['X-Autoreply: yes', 'automatic'],
    ['X-Other: yes', 'answer'],
  ])('with “%s” is taken as %s (RFC 3834)', async (header, taken) => {
    const { workspace } = writing()
    vera(workspace)
    const mail = lines('From: Vera <VERA@lima.example>', 'Subject: Re: Welcome', header, '', 'I am away.', '')
    expect(await takeMail(workspace, mail, [])).toBe(taken)
  })

  it('keeps hostile HTML as text', async () => {
    const { workspace } = writing()
    const ref = vera(workspace)
    const mail = lines(
      'From: vera@lima.example',
      'Subject: <script>alert(1)</script>',
      'Content-Type: text/html',
      '',
      '<p>Yes<script>alert(1)</script><img src="https://evil.example/p.png"></p>',
      '',
    )
    expect(await takeMail(workspace, mail, [])).toBe('answer')
    const [row] = workspace.store.messages.ofContactPage(ref.id, 1e9, 1)
    expect(row?.text).not.toMatch(/<script|<img/)
  })
})
