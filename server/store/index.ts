import type { Db } from '../db/connect'
import { openAccounts, type Accounts } from './accounts'
import { AddressStore } from './addresses'
import { AnswerStore } from './answers'
import { CaseStore } from './cases'
import { CatalogueStore } from './catalogue'
import { DeriveStore } from './derive'
import { EventStore } from './events'
import { GoneStore } from './gone'
import { ActivityStore } from './activities'
import { BookingStore } from './booking'
import { VisitStore } from './visits'
import { VisitorStore } from './visitors'
import { WebsiteStore } from './websites'
import { ImportStore } from './imports'
import { KeyStore } from './keys'
import { LinkStore } from './links'
import { FigureRowStore } from './figure-rows'
import { MeasureStore } from './measures'
import { ResultStore } from './results'
import { MessageStore } from './messages'
import { NoticeStore } from './notices'
import { OutboxStore } from './outbox'
import { PeopleStore } from './people'
import { ProblemStore } from './problems'
import { RateStore } from './rates'
import { RevisionStore } from './revisions'
import { RetentionStore } from './retention'
import { RecordStore } from './records'
import { RuleJobStore } from './rule-jobs'
import { RuleStore } from './rules'
import { RunStore } from './runs'
import { SegmentStore } from './segments'
import { SessionStore } from './sessions'
import { TaskLoadStore } from './task-load'
import { TaskStore } from './tasks'
import { TellingStore } from './tellings'
import { TemplateStore } from './templates'
import { ConnectionStore } from './connections'
import { HabitStore } from './habits'
import { IntakeStore } from './intakes'
import { WaitStore } from './waits'

/** One repository a noun over one connection. SQL lives in these and nowhere else. */
export interface Store {
  readonly catalogue: CatalogueStore
  readonly people: PeopleStore
  readonly records: RecordStore
  readonly keys: KeyStore
  readonly links: LinkStore
  readonly events: EventStore
  readonly rules: RuleStore
  readonly ruleJobs: RuleJobStore
  readonly runs: RunStore
  readonly segments: SegmentStore
  readonly sessions: SessionStore
  readonly tasks: TaskStore
  readonly taskLoad: TaskLoadStore
  readonly tellings: TellingStore
  readonly templates: TemplateStore
  readonly connections: ConnectionStore
  readonly habits: HabitStore
  readonly intakes: IntakeStore
  readonly waits: WaitStore
  readonly addresses: AddressStore
  readonly accounts: Accounts
  readonly answers: AnswerStore
  readonly gone: GoneStore
  readonly cases: CaseStore
  readonly derive: DeriveStore
  readonly activities: ActivityStore
  readonly visits: VisitStore
  readonly visitors: VisitorStore
  readonly booking: BookingStore
  readonly websites: WebsiteStore
  readonly imports: ImportStore
  readonly measures: MeasureStore
  readonly results: ResultStore
  readonly figureRows: FigureRowStore
  readonly messages: MessageStore
  readonly notices: NoticeStore
  readonly outbox: OutboxStore
  readonly problems: ProblemStore
  readonly rates: RateStore
  readonly retention: RetentionStore
  readonly revisions: RevisionStore
}

export const openStore = (db: Db): Store => ({
  catalogue: new CatalogueStore(db),
  people: new PeopleStore(db),
  records: new RecordStore(db),
  keys: new KeyStore(db),
  links: new LinkStore(db),
  events: new EventStore(db),
  rules: new RuleStore(db),
  ruleJobs: new RuleJobStore(db),
  runs: new RunStore(db),
  segments: new SegmentStore(db),
  sessions: new SessionStore(db),
  tasks: new TaskStore(db),
  taskLoad: new TaskLoadStore(db),
  tellings: new TellingStore(db),
  templates: new TemplateStore(db),
  connections: new ConnectionStore(db),
  habits: new HabitStore(db),
  intakes: new IntakeStore(db),
  waits: new WaitStore(db),
  addresses: new AddressStore(db),
  accounts: openAccounts(db),
  answers: new AnswerStore(db),
  gone: new GoneStore(db),
  cases: new CaseStore(db),
  derive: new DeriveStore(db),
  activities: new ActivityStore(db),
  visits: new VisitStore(db),
  visitors: new VisitorStore(db),
  booking: new BookingStore(db),
  websites: new WebsiteStore(db),
  imports: new ImportStore(db),
  measures: new MeasureStore(db),
  results: new ResultStore(db),
  figureRows: new FigureRowStore(db),
  messages: new MessageStore(db),
  notices: new NoticeStore(db),
  outbox: new OutboxStore(db),
  problems: new ProblemStore(db),
  rates: new RateStore(db),
  retention: new RetentionStore(db),
  revisions: new RevisionStore(db),
})
