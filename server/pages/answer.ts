import { CALL_ENDS, CALL_OUTCOMES } from '../../core/asks/call'
import type { Fact, Question } from '../../core/asks/question'
import type { TaskRow } from '../store/tasks'
import { whole, type Around } from './booking'
import { html, type Html } from './html'

/** The page on which a colleague answers what a rule asks: by a link in a mail, without signing in. */

type Entered = Readonly<Record<string, string | undefined>>

const factList = (facts: readonly Fact[]): Html | null =>
  facts.length === 0
    ? null
    : html`<dl>
        ${facts.map(
          ({ label, value }) =>
            html`<dt>${label}</dt>
              <dd>${value}</dd>`,
        )}
      </dl>`

const options = (
  list: readonly { readonly id: string; readonly label: string }[],
  chosen: string | undefined,
): Html[] =>
  list.map(({ id, label }) => html`<option value="${id}" ${id === chosen ? html`selected` : null}>${label}</option>`)

function field({ key, label, type, choices, required }: Question, entered: Entered): Html {
  const name = `a-${key}`
  const must = required ? html`required` : null
  const value = entered[name] ?? ''
  if (type === 'choice' || type === 'yesNo') {
    const list =
      type === 'choice'
        ? choices.map((one) => ({ id: one, label: one }))
        : [
            { id: 'yes', label: 'Yes' },
            { id: 'no', label: 'No' },
          ]
    return html`<p>
      <label
        >${label}
        <select name="${name}" ${must}>
          <option value=""></option>
          ${options(list, value)}
        </select></label
      >
    </p>`
  }
  return html`<p>
    <label
      >${label}
      <input
        name="${name}"
        type="${type === 'number' ? 'number' : type === 'date' ? 'date' : 'text'}"
        value="${value}"
        ${type === 'number' ? html`step="any"` : null}
        ${must}
    /></label>
  </p>`
}

function body(task: TaskRow, entered: Entered): Html {
  const { asks } = task
  if (asks?.about === 'questions')
    return html`${factList(asks.facts)} ${asks.questions.map((one) => field(one, entered))}
      <p><button type="submit">Send answer</button></p>`
  if (asks?.about === 'approval')
    return html`${factList(asks.facts)}
      <p>
        <label>Reason <input name="a-reason" value="${entered['a-reason'] ?? ''}" maxlength="1000" /></label>
      </p>
      <p>
        <button type="submit" name="a-decision" value="approved">Approve</button>
        <button type="submit" name="a-decision" value="declined">Decline</button>
      </p>`
  return html`<p>${asks?.name ?? ''} ${asks?.number ?? ''}</p>
    <p>
      <label
        >How it went
        <select name="a-outcome" required>
          <option value=""></option>
          ${options(CALL_OUTCOMES, entered['a-outcome'])}
        </select></label
      >
      <label
        >How it ended
        <select name="a-ended">
          <option value=""></option>
          ${options(CALL_ENDS, entered['a-ended'])}
        </select></label
      >
    </p>
    <p>
      <label>Notes <input name="a-notes" value="${entered['a-notes'] ?? ''}" maxlength="1000" /></label>
    </p>
    <p><button type="submit">Send answer</button></p>`
}

export const askPage = (around: Around, token: string, who: string, task: TaskRow, entered: Entered = {}): Html =>
  whole(
    task.title,
    around,
    html`<p class="quiet">For ${who}. The link is yours alone, and works until it is answered.</p>
      ${task.notes === '' ? null : html`<p>${task.notes}</p>`}
      <form method="post" action="/answer/${token}">${body(task, entered)}</form>`,
    false,
  )

export const answeredPage = (around: Around, task: TaskRow, justNow: boolean): Html =>
  whole(
    justNow ? 'Thank you' : 'Already answered',
    around,
    html`<p role="status">${task.title}</p>
      <p>${task.outcome}</p>`,
    false,
  )

export const closedPage = (around: Around): Html =>
  whole(
    'Not to be answered any more',
    around,
    html`<p>This was handed over to someone else, or is no longer needed. Your day sheet has what is open.</p>`,
    false,
  )
