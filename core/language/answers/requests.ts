import { count, figure } from '../counts'
import { capital } from '../nouns'
import { atPlace, type Answer } from './answer'

const invalid = (detail: string): Answer => ({ status: 400, title: 'Invalid request', detail })
const missing = (detail: string): Answer => ({ status: 404, title: 'Not found', detail })
const unable = (title: string, detail: string): Answer => ({ status: 503, title, detail })
const megabytes = (bytes: number): string =>
  bytes >= 1_000_000 ? `${figure(Math.floor(bytes / 1_000_000))} MB` : `${figure(Math.floor(bytes / 1000))} kB`

/** Requests that are answered with this whatever they are about. */
export const REQUEST_ANSWERS = {
  notFound: ({ what }: { readonly what: string }) =>
    missing(`${capital(what)} does not exist or you don’t have access to it.`),
  noRoute: () => missing('There is no such route. See /api/v1/openapi.json.'),
  noSuch: ({ what }: { readonly what: 'call' | 'request' | 'address' }) => missing(`There is no such ${what}.`),
  notSetUp: () => missing('This workspace is not set up yet.'),

  partInvalid: ({ part }: { readonly part: string }) => invalid(`The ${part} of the request is not valid.`),
  bodyTooLarge: ({ mostBytes }: { readonly mostBytes: number }): Answer => ({
    status: 413,
    title: 'Too large',
    detail: `The body of this request can be at most ${megabytes(mostBytes)}.`,
  }),
  bodyNotText: () => invalid('The body is not UTF-8 text.'),
  bodyNotJson: () => invalid('The body is not JSON.'),
  bodyTooDeep: ({ most }: { readonly most: number }) =>
    invalid(`The body is nested more than ${count(most, 'level')} deep.`),
  bodyTooMany: ({ most }: { readonly most: number }) =>
    invalid(`The body has more than ${figure(most)} keys and items.`),
  bodyType: (): Answer => ({
    status: 415,
    title: 'Invalid request',
    detail: 'The body must be JSON (content-type: application/json).',
  }),
  formInvalid: ({ path, said }: { readonly path: string; readonly said: string }) => atPlace(path, said, 'Not valid'),
  cursorInvalid: () =>
    atPlace('cursor', 'Invalid cursor. Use the `next` value of the previous page.', 'Invalid request', 400),
  filterNotJson: () => atPlace('filter', 'The filter is not JSON.', 'Invalid request', 400),
  filterInvalid: ({ at, said }: { readonly at: string; readonly said: string }): Answer => ({
    ...invalid('The filter is not valid.'),
    places: [{ path: at === '' ? 'filter' : `filter.${at}`, text: said }],
  }),
  periodTooLong: ({ days }: { readonly days: number }) =>
    atPlace('to', `A period can be at most ${count(days, 'day')} long.`, 'Invalid request', 400),

  keyLength: ({ most }: { readonly most: number }) =>
    atPlace('Idempotency-Key', `An Idempotency-Key must have 1 to ${figure(most)} characters.`, 'Invalid request', 400),
  keyUsed: (): Answer => ({
    status: 422,
    title: 'Idempotency-Key already used',
    detail: 'Use a new key for a different request.',
  }),
  sameUnderWay: (): Answer => ({
    status: 409,
    title: 'Already running',
    detail: 'The same request is still being processed.',
  }),
  recordChanged: ({ given, version }: { readonly given: string; readonly version: number }): Answer => ({
    status: 412,
    title: 'Changed by someone else',
    detail: 'This record was changed after you opened it. Nothing was saved. Reload and try again.',
    places: [{ path: 'If-Match', text: `The record is at version ${version}, not ${given}.` }],
  }),

  /** What was to be written is refused by what it is; its places say why. */
  notSaved: ({ said }: { readonly said: string }): Answer => ({ status: 422, title: 'Not saved', detail: said }),
  fileNotImported: ({ said }: { readonly said: string }): Answer => ({
    status: 422,
    title: 'File not imported',
    detail: 'Nothing was changed.',
    places: [{ path: 'text', text: said }],
  }),
  fileUnreadable: ({ said }: { readonly said: string }): Answer => ({
    status: 422,
    title: 'File can’t be read',
    detail: said,
  }),

  tooManyRequests: (): Answer => ({
    status: 429,
    title: 'Too many requests',
    detail: 'Wait a minute, then try again.',
  }),
  otherWebsite: (): Answer => ({
    status: 403,
    title: 'Request blocked',
    detail: 'The request came from another website.',
  }),
  websiteNotAllowed: (): Answer => ({
    status: 403,
    title: 'Request blocked',
    detail: 'This website may not send activities. Add it under Data, Website.',
  }),
  notTaken: ({ status, said }: { readonly status: number; readonly said: string }): Answer => ({
    status,
    title: 'Not accepted',
    detail: said,
  }),
  unknownHost: (): Answer => ({
    status: 421,
    title: 'Unknown host',
    detail: 'This server is not known under that name. Whoever runs it can add it to SKY_LEVER_HOSTS.',
  }),

  workspaceEmpty: () =>
    unable('The workspace is empty', 'Open it in a browser to set it up, or run “npm run demo” for the demo.'),
  tooManySignIns: () => unable('Busy', 'Too many people sign in at once. Try again in a moment.'),
  serverBusy: () => unable('Busy', 'The server is busy with other requests. Try again in a moment.'),
  tooMuchAsked: () => unable('Busy', 'This would take too long. Ask for less at once.'),
  diskFull: (): Answer => ({
    status: 507,
    title: 'Disk full',
    detail: 'Nothing was saved. Free up space on the disk that holds the database, then try again.',
  }),
  databaseReadOnly: () =>
    unable('Database is read-only', 'Nothing was saved. Check the permissions of the database file and its folder.'),
  databaseBusy: () =>
    unable('Database busy', 'Nothing was saved. Another program is using the database. Try again in a moment.'),
  diskError: () => unable('Disk error', 'Nothing was saved. Check the disk that holds the database.'),
  databaseDamaged: () =>
    unable('Database damaged', 'Nothing was saved. Stop the server, keep the files and restore a backup.'),
} as const
