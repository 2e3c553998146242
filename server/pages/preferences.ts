import { CHANNEL_WORDS, type MessageChannel } from '../../core/messages/guards'
import { whole, type Around } from './booking'
import { html, type Html } from './html'

/** The page on which somebody chooses what they get: without signing in, by a link that is theirs alone. */

export interface Preference {
  readonly channel: MessageChannel
  readonly address: string
  readonly wanted: boolean
}

export const preferencesPage = (
  around: Around,
  person: string,
  preferences: readonly Preference[],
  saved: boolean,
): Html =>
  whole(
    'What you get from us',
    around,
    html`${saved ? html`<p role="status">Saved.</p>` : null}
      <form method="post" action="/preferences/${person}">
        <input type="hidden" name="shown" value="yes" />
        ${preferences.map(
          ({ channel, address, wanted }) =>
            html`<p>
              <label
                ><input type="checkbox" name="${channel}" value="yes" ${wanted ? html`checked` : null} />
                ${channel === 'mail' ? 'Emails' : 'Text messages'} to ${address}</label
              >
            </p>`,
        )}
        ${preferences.length === 0 ? html`<p>We have no address of yours.</p>` : null}
        <p><button type="submit">Save</button></p>
      </form>
      <p class="quiet">
        Without a tick you get no ${CHANNEL_WORDS.mail.many} or ${CHANNEL_WORDS.text.many} that our rules send.
      </p>`,
    false,
  )

export const strangerPage = (around: Around): Html =>
  whole(
    'This link does not work',
    around,
    html`<p>It may have been cut off. Open it from the message once more.</p>`,
    false,
  )
