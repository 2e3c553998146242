import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Parcel } from '../channel'
import { rawMail, type MailPlace } from './compose'
import { readMail } from './incoming'

const place: MailPlace = {
  base: 'https://sky.larkmoor.example',
  personOf: (contactId) => `person-${contactId}`,
  replyTo: (messageId, from) => (messageId.startsWith('in-') ? `answers+${messageId}` : from),
}
type More = NonNullable<Parcel['more']>
const letter = (more: Partial<More> = {}, parcel: Partial<Parcel> = {}): Parcel => ({
  key: 'run-7-s1',
  recipient: 'tala@harbour.example',
  subject: 'Your room',
  body: 'Dear Tala,\n\nit is **ready**.',
  atMs: 0,
  more: {
    from: { name: 'Rosa Amara', address: 'rosa@larkmoor.example' },
    name: 'Tala Moss',
    copy: [],
    messageId: 'm1@larkmoor.example',
    inReplyTo: null,
    references: [],
    contactId: 12,
    optOut: false,
    ...more,
  } as More,
  ...parcel,
})
const read = async (parcel: Parcel) => readMail(await rawMail(parcel, place))
const header = async (parcel: Parcel, name: string): Promise<string | null> => {
  const raw = (await rawMail(parcel, place)).toString('utf8').replace(/\r\n[ \t]+/g, ' ')
  const [, value] = new RegExp(`^${name}: (.*)$`, 'im').exec(raw) ?? []
  return value?.trim() ?? null
}

describe('a mail on the wire', () => {
  it('comes back as it was written: sender, subject and message id', async () => {
    const mail = await read(letter())
    expect(mail).toMatchObject({
      from: 'rosa@larkmoor.example',
      subject: 'Your room',
      messageId: 'm1@larkmoor.example',
      answers: [],
      automatic: false,
      bounce: null,
    })
    expect(mail.text).toContain('Dear Tala')
  })

  it('whatever is written in its subject and text', async () => {
    const line = fc
      .array(fc.constantFrom('a', 'é', '“', '中', '🙂', ' ', '=', '?', '.', 'Z', ':', '<', '>'), {
        minLength: 1,
        maxLength: 120,
      })
      .map((some) => some.join('').replace(/\s+/g, ' ').trim())
      .filter((text) => text !== '')
    await fc.assert(
      fc.asyncProperty(line, line, async (subject, body) => {
        const mail = await read(letter({}, { subject, body }))
        expect(mail.subject.replace(/\s+/g, ' ')).toBe(subject)
        expect(mail.text.replace(/\s+/g, ' ').trim()).toBe(body)
      }),
      { numRuns: 60 },
    )
  })

  it('no line of a subject or a name becomes a header of its own', async () => {
    const parcel = letter({ name: 'Tala\r\nBcc: all@larkmoor.example' }, { subject: 'Hello\r\nBcc: x@example.org' })
    expect(await header(parcel, 'bcc')).toBeNull()
  })

  it('names what it answers, each once, the nearest first', async () => {
    const mail = await read(letter({ inReplyTo: 'b@x.example', references: ['a@x.example', 'b@x.example'] }))
    expect(mail.answers).toEqual(['b@x.example', 'a@x.example'])
  })

  it('from a rule, says that a program wrote it and how to get nothing more by one press', async () => {
    const parcel = letter({ optOut: true })
    expect((await read(parcel)).automatic).toBe(true)
    expect(await header(parcel, 'list-unsubscribe')).toBe(
      '<https://sky.larkmoor.example/opt-out/person-12?channel=mail>',
    )
    expect(await header(parcel, 'list-unsubscribe-post')).toBe('List-Unsubscribe=One-Click')
    expect((await read(parcel)).text).toContain('https://sky.larkmoor.example/preferences/person-12')
  })

  it('from a person, says none of it', async () => {
    const parcel = letter()
    expect(await header(parcel, 'auto-submitted')).toBeNull()
    expect(await header(parcel, 'list-unsubscribe')).toBeNull()
    expect((await read(parcel)).text).not.toContain('/preferences/')
  })

  it('sends answers where they are received, and otherwise to who wrote it', async () => {
    expect(await header(letter(), 'reply-to')).toBe('rosa@larkmoor.example')
    expect(await header(letter({ messageId: 'in-7@larkmoor.example' }), 'reply-to')).toBe(
      'answers+in-7@larkmoor.example',
    )
  })

  it('carries copies, and to a colleague nothing to find its way back by', async () => {
    expect(await header(letter({ copy: ['jude@larkmoor.example'] }), 'cc')).toBe('jude@larkmoor.example')
    const notice = letter({}, { recipient: 'jude@larkmoor.example', more: null })
    expect(await header(notice, 'reply-to')).toBeNull()
    expect(await read(notice)).toMatchObject({ from: 'notifications@larkmoor.example', automatic: true })
  })
})

describe('what comes in', () => {
  const raw = (headers: readonly string[], body = 'I am away.') =>
    ['From: Tala <Tala@Harbour.Example>', 'Subject: Re: Your room', ...headers, '', body].join('\r\n')

  it('says who wrote it in small letters, and stands without a subject or an id', async () => {
    expect(await readMail(raw([]))).toMatchObject({ from: 'tala@harbour.example', messageId: null, answers: [] })
    expect(await readMail('From: a@b.example\r\n\r\n')).toMatchObject({ subject: '', text: '' })
    expect(await readMail('')).toMatchObject({ from: '', subject: '', text: '', bounce: null, automatic: false })
  })

  it.each([
    ['Auto-Submitted: auto-replied', true],
    ['Auto-Submitted: auto-generated; owner-email="x@example.org"', true],
    ['Auto-Submitted: no', false],
    ['X-Autoreply: yes', true],
    ['X-Autorespond: out of office', true],
    ['Precedence: bulk', true],
    ['Precedence: auto_reply', true],
    ['Precedence: list', false],
    ['X-Mailer: something', false],
  ])('with “%s” is automatic: %s', async (line, automatic) => {
    expect((await readMail(raw([line]))).automatic).toBe(automatic)
  })

  const report = (fields: readonly string[], within = 'Message-ID: <m1@larkmoor.example>') =>
    [
      'From: postmaster@harbour.example',
      'Subject: Undelivered',
      'Content-Type: multipart/report; report-type=delivery-status; boundary="b"',
      '',
      '--b',
      'Content-Type: text/plain',
      '',
      'It could not be delivered.',
      '--b',
      'Content-Type: message/delivery-status',
      '',
      'Reporting-MTA: dns; harbour.example',
      '',
      ...fields,
      '',
      '--b',
      'Content-Type: text/rfc822-headers',
      '',
      within,
      '',
      '--b--',
      '',
    ].join('\r\n')

  it('reads a report of what could not be delivered, with the reason on several lines', async () => {
    const mail = await readMail(
      report([
        'Final-Recipient: rfc822; Tala@Harbour.Example',
        'Action: failed',
        'Status: 5.1.1',
        'Diagnostic-Code: smtp; 550 5.1.1',
        ' no such user',
      ]),
    )
    expect(mail.bounce).toEqual({ recipient: 'tala@harbour.example', final: true, reason: '550 5.1.1 no such user' })
    expect(mail.answers).toEqual(['m1@larkmoor.example'])
  })

  it('tells what may still arrive from what will not', async () => {
    const fields = ['Original-Recipient: rfc822;tala@harbour.example', 'Action: failed', 'Status: 4.2.2']
    expect((await readMail(report(fields))).bounce).toEqual({
      recipient: 'tala@harbour.example',
      final: false,
      reason: '4.2.2',
    })
  })

  it('takes no report of a delay, or of nobody, for a bounce', async () => {
    const delayed = ['Final-Recipient: rfc822; tala@harbour.example', 'Action: delayed', 'Status: 4.4.1']
    expect((await readMail(report(delayed))).bounce).toBeNull()
    expect((await readMail(report(['Action: failed', 'Status: 5.0.0']))).bounce).toBeNull()
  })

  it('takes the same words in an ordinary mail for what they are: words', async () => {
    const mail = await readMail(
      raw([], 'Final-Recipient: rfc822; rosa@larkmoor.example\r\nAction: failed\r\nStatus: 5.1.1'),
    )
    expect(mail.bounce).toBeNull()
    expect(mail.answers).toEqual([])
  })
})
