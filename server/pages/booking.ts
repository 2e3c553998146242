import type { BookingPage } from '../../core/booking/page'
import { count } from '../../core/language/counts'
import { dateAt } from '../../core/time/dates'
import { sayTime, sayWeekday } from '../../core/time/say'
import { html, type Html } from './html'

/** The pages on which people book by themselves: plain HTML that works without a script. */

/** So many days with free times are shown at once. */
const DAYS_SHOWN = 5

/** What a page may load: its own style and two scripts of the product. */
export const BOOKING_POLICY =
  "default-src 'none'; style-src 'self'; script-src 'self'; connect-src 'self'; form-action 'self'; frame-ancestors 'self'; base-uri 'none'"

export interface Around {
  readonly firm: string
  /** The zone that times are shown in. */
  readonly zone: string
  readonly problem?: string | undefined
}

/** A page of the firm around its body; `inTheirZone` where it shows times, which a script asks for by their clock. */
export const whole = (title: string, { firm, problem }: Around, body: Html, inTheirZone = true): Html =>
  html`<!doctype html>
    <html lang="en">
      <head>
        <meta charset="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <meta name="robots" content="noindex" />
        <title>${title} · ${firm}</title>
        <link rel="stylesheet" href="/booking.css" />
        ${
          inTheirZone
            ? html`<script src="/booking.js" defer></script>
                <script src="/site.js" defer></script>`
            : null
        }
      </head>
      <body>
        <header>${firm}</header>
        <main>
          <h1>${title}</h1>
          ${problem ? html`<p class="problem" role="alert">${problem}</p>` : null} ${body}
        </main>
      </body>
    </html>`

export const listPage = (around: Around, pages: readonly BookingPage[]): Html =>
  whole(
    'Book an appointment',
    around,
    pages.length === 0
      ? html`<p>Nothing can be booked at the moment.</p>`
      : html`<ul class="kinds">
          ${pages.map(
            ({ slug, name, minutes, text }) =>
              html`<li>
                <a href="/book/${slug}">${name}</a> <span class="quiet">${count(minutes, 'minute')}</span>
                ${text ? html`<p>${text}</p>` : null}
              </li>`,
          )}
        </ul>`,
  )

/** Free times by day in the zone, from one day on, with how to go on. */
function times(
  starts: readonly number[],
  from: string | null,
  { zone }: Around,
  address: (day: string) => string,
): Html {
  const days = new Map<string, number[]>()
  for (const at of starts) {
    const day = dateAt(at, zone)
    days.set(day, [...(days.get(day) ?? []), at])
  }
  const all = [...days.keys()]
  const at = Math.max(0, from === null ? 0 : all.findIndex((day) => day >= from))
  const shown = all.slice(at, at + DAYS_SHOWN)
  if (shown.length === 0) return html`<p role="status">There is no free time at the moment.</p>`
  const [before, behind] = [all[at - DAYS_SHOWN] ?? (at > 0 ? all[0] : undefined), all[at + DAYS_SHOWN]]
  return html`<fieldset class="times">
      <legend>Time (${zone})</legend>
      ${shown.map(
        (day) =>
          html`<div>
            <h3>${sayWeekday(day)}</h3>
            ${(days.get(day) ?? []).map(
              (start) =>
                html`<label
                  ><input type="radio" name="start" value="${start}" required /><span
                    >${sayTime(start, zone)}</span
                  ></label
                >`,
            )}
          </div>`,
      )}
    </fieldset>
    <p class="pages">
      ${before ? html`<a href="${address(before)}">Earlier</a>` : null}
      ${behind ? html`<a href="${address(behind)}">Later</a>` : null}
    </p>`
}

export interface Entered {
  readonly name: string
  readonly email: string
  readonly note: string
}

/** A page on which one kind is booked. */
export function bookPage(
  around: Around,
  page: BookingPage,
  starts: readonly number[],
  {
    from,
    person,
    entered,
  }: { readonly from: string | null; readonly person: string | null; readonly entered: Entered },
): Html {
  const query = (day: string | null): string =>
    new URLSearchParams({
      zone: around.zone,
      ...(day ? { from: day } : {}),
      ...(person ? { for: person } : {}),
    }).toString()
  return whole(
    page.name,
    around,
    html`<p class="quiet">${count(page.minutes, 'minute')}${page.place ? `, ${page.place}` : ''}</p>
      ${page.text ? html`<p>${page.text}</p>` : null}
      <form method="post" action="/book/${page.slug}?${query(from)}">
        ${times(starts, from, around, (day) => `/book/${page.slug}?${query(day)}`)}
        ${
          starts.length === 0
            ? null
            : html`<p>
                  <label
                    >Your name<input name="name" value="${entered.name}" maxlength="200" autocomplete="name" required
                  /></label>
                </p>
                <p>
                  <label
                    >Your email<input
                      name="email"
                      type="email"
                      value="${entered.email}"
                      maxlength="300"
                      autocomplete="email"
                      required
                  /></label>
                </p>
                <p>
                  <label
                    >What is it about?<textarea name="note" rows="3" maxlength="1000">${entered.note}</textarea>
                  </label>
                </p>
                <input type="hidden" name="visitor" data-visitor />
                <p><button>Book</button></p>`
        }
      </form>`,
  )
}

export interface Booked {
  readonly name: string
  readonly startMs: number
  readonly endMs: number
  readonly place: string
  readonly withWhom: string
  readonly status: string
  /** The address of the page, without a query. */
  readonly address: string
}

/** What was booked, where it can be moved or cancelled. */
export function bookedPage(around: Around, booked: Booked, starts: readonly number[], from: string | null): Html {
  const { zone } = around
  const over = booked.status !== 'booked'
  return whole(
    over ? `${booked.name}: ${booked.status}` : booked.name,
    around,
    html`<p class="when">
        ${sayWeekday(dateAt(booked.startMs, zone))}, ${sayTime(booked.startMs, zone)} to ${sayTime(booked.endMs, zone)}
        <span class="quiet">(${zone})</span>
      </p>
      <p>
        ${booked.withWhom ? `With ${booked.withWhom}` : ''}${booked.withWhom && booked.place ? ', ' : ''}${booked.place}
      </p>
      ${
        over
          ? null
          : html`<p><a href="${booked.address}.ics">Add to your calendar</a></p>
              ${
                starts.length === 0
                  ? null
                  : html`<details ${from ? html`open` : null}>
                      <summary>Choose another time</summary>
                      <form method="post" action="${booked.address}?${new URLSearchParams({ zone }).toString()}">
                        ${times(
                          starts,
                          from,
                          around,
                          (day) => `${booked.address}?${new URLSearchParams({ zone, from: day }).toString()}`,
                        )}
                        <p><button name="do" value="move">Move</button></p>
                      </form>
                    </details>`
              }
              <form method="post" action="${booked.address}?${new URLSearchParams({ zone }).toString()}">
                <p><button name="do" value="cancel" class="plain">Cancel this appointment</button></p>
              </form>`
      }`,
  )
}

export const gonePage = (around: Around): Html =>
  whole('Not found', around, html`<p>This page does not exist. <a href="/book">See what can be booked.</a></p>`)
