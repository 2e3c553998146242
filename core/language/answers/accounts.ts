import { count, listOf } from '../counts'
import { atPlace, type Answer } from './answer'

const notSignedIn = (detail: string): Answer => ({ status: 401, title: 'Not signed in', detail })
const notAllowed = (detail: string): Answer => ({ status: 403, title: 'Not allowed', detail })

/** What has to do with who asks: signing in, permissions, keys, people. */
export const ACCOUNT_ANSWERS = {
  signInFirst: () => notSignedIn('Sign in to continue.'),
  signInWrong: () => notSignedIn('Wrong email or password.'),
  accountInactive: () => notSignedIn('This account is no longer active. Ask a specialist in your workspace.'),
  keyUnknown: () => notSignedIn('This API key is unknown, has expired or has been revoked.'),
  tooManyAttempts: ({ seconds }: { readonly seconds: number }): Answer => ({
    status: 429,
    title: 'Too many attempts',
    detail: `Wait ${seconds < 90 ? count(seconds, 'second') : count(Math.ceil(seconds / 60), 'minute')}, then try again.`,
  }),

  noPermission: ({ to }: { readonly to: string }) => notAllowed(`You don’t have permission to ${to}.`),
  keyNotForAccounts: () => notAllowed('API keys can’t be used for accounts, passwords and keys. Sign in for that.'),
  keyNotForArea: ({ area, areas }: { readonly area: string; readonly areas: readonly string[] }) =>
    notAllowed(`This API key can’t be used for ${area}. It is limited to ${listOf(areas)}.`),
  keyReadOnly: () => notAllowed('This API key is read-only.'),
  noPasswordsInDemo: () => notAllowed('Passwords can’t be changed in a demo.'),
  noSwitching: () => notAllowed('Only a demo workspace lets you switch to another person.'),

  alreadySetUp: (): Answer => ({
    status: 409,
    title: 'Already set up',
    detail: 'This workspace already exists. Sign in.',
  }),
  setUpCodeWrong: () =>
    atPlace('code', 'Enter the set-up code that the server printed when it started.', 'Not allowed', 403),
  passwordWrong: () => atPlace('current', 'The current password is wrong.'),
  emailInUse: () => atPlace('email', 'This email is already in use.'),
  chatAddressMissing: () => atPlace('chat', 'Enter a chat address, or turn off notifications in the chat.'),

  lastSpecialist: ({ part }: { readonly part: 'role' | 'active' }) =>
    atPlace(part, 'At least one active specialist is needed.'),
  awayHalf: () => atPlace('awayTo', 'Enter both the first and the last day away.'),
  awayBackwards: () => atPlace('awayTo', 'The last day away is before the first.'),
  noDeputy: () => atPlace('deputyId', 'Choose an active person as deputy.'),
} as const
