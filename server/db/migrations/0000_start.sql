CREATE TABLE `choices` (
	`field_id` integer NOT NULL,
	`id` text NOT NULL,
	`label` text NOT NULL,
	`position` integer NOT NULL,
	PRIMARY KEY(`field_id`, `id`),
	FOREIGN KEY (`field_id`) REFERENCES `fields`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `companies` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`version` integer NOT NULL,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE `contacts` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`version` integer NOT NULL,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE `deals` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`version` integer NOT NULL,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE `event_positions` (
	`reader` text PRIMARY KEY NOT NULL,
	`seq` integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE `events` (
	`seq` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`at_ms` integer NOT NULL,
	`kind` text NOT NULL,
	`object` text NOT NULL,
	`record_id` integer NOT NULL,
	`changes` text NOT NULL,
	`cause` text NOT NULL,
	`chain_id` text NOT NULL,
	`depth` integer NOT NULL,
	`rules_off` integer NOT NULL
);
--> statement-breakpoint
CREATE INDEX `events_record` ON `events` (`object`,`record_id`,`seq`);--> statement-breakpoint
CREATE INDEX `events_chain` ON `events` (`chain_id`);--> statement-breakpoint
CREATE INDEX `events_at` ON `events` (`at_ms`);--> statement-breakpoint
CREATE TABLE `fields` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`object` text NOT NULL,
	`key` text NOT NULL,
	`label` text NOT NULL,
	`type` text NOT NULL,
	`description` text NOT NULL,
	`kept_by` text,
	`required` integer NOT NULL,
	`currency_key` text,
	`indexed` integer NOT NULL,
	`position` integer NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `fields_key` ON `fields` (`object`,`key`);--> statement-breakpoint
CREATE TABLE `history` (
	`event_seq` integer NOT NULL,
	`field_id` integer NOT NULL,
	`object` text NOT NULL,
	`record_id` integer NOT NULL,
	`old` text,
	`new` text,
	PRIMARY KEY(`event_seq`, `field_id`),
	FOREIGN KEY (`event_seq`) REFERENCES `events`(`seq`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`field_id`) REFERENCES `fields`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `history_field` ON `history` (`object`,`record_id`,`field_id`,`event_seq`);--> statement-breakpoint
CREATE TABLE `holidays` (
	`date` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL
);
--> statement-breakpoint
CREATE TABLE `imports` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`file_name` text NOT NULL,
	`content` text NOT NULL,
	`mapping` text NOT NULL,
	`state` text NOT NULL,
	`rules_on` integer NOT NULL,
	`counts` text,
	`refused` text,
	`position` integer NOT NULL,
	`person_id` text NOT NULL,
	`created_at` integer NOT NULL,
	`ended_at` integer,
	FOREIGN KEY (`person_id`) REFERENCES `people`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `links` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`from_object` text NOT NULL,
	`from_id` integer NOT NULL,
	`to_object` text NOT NULL,
	`to_id` integer NOT NULL,
	`role` text NOT NULL,
	`main` integer NOT NULL,
	`created_at` integer NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `links_pair` ON `links` (`from_object`,`from_id`,`to_object`,`to_id`);--> statement-breakpoint
CREATE INDEX `links_to` ON `links` (`to_object`,`to_id`);--> statement-breakpoint
CREATE TABLE `outbox` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`key` text NOT NULL,
	`channel` text NOT NULL,
	`recipient` text NOT NULL,
	`subject` text NOT NULL,
	`body` text NOT NULL,
	`run_id` integer NOT NULL,
	`state` text NOT NULL,
	`attempts` integer NOT NULL,
	`next_at` integer NOT NULL,
	`created_at` integer NOT NULL,
	`delivered_at` integer,
	`last_error` text,
	FOREIGN KEY (`run_id`) REFERENCES `runs`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `outbox_key_unique` ON `outbox` (`key`);--> statement-breakpoint
CREATE INDEX `outbox_due` ON `outbox` (`state`,`next_at`);--> statement-breakpoint
CREATE TABLE `people` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`email` text NOT NULL,
	`role` text NOT NULL,
	`team` text NOT NULL,
	`title` text NOT NULL,
	`away_from` text,
	`away_to` text,
	`deputy_id` text,
	`active` integer NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `people_email_unique` ON `people` (`email`);--> statement-breakpoint
CREATE TABLE `pipelines` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`position` integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE `rule_versions` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`rule_id` integer NOT NULL,
	`number` integer NOT NULL,
	`document` text NOT NULL,
	`published_by` text NOT NULL,
	`published_at` integer NOT NULL,
	FOREIGN KEY (`rule_id`) REFERENCES `rules`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`published_by`) REFERENCES `people`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `rule_versions_number` ON `rule_versions` (`rule_id`,`number`);--> statement-breakpoint
CREATE TABLE `rules` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`state` text NOT NULL,
	`order_no` integer NOT NULL,
	`version_id` integer,
	`draft` text NOT NULL,
	`draft_rev` integer NOT NULL,
	`created_by` text NOT NULL,
	`created_at` integer NOT NULL,
	`changed_by` text NOT NULL,
	`changed_at` integer NOT NULL,
	FOREIGN KEY (`created_by`) REFERENCES `people`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`changed_by`) REFERENCES `people`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `run_steps` (
	`run_id` integer NOT NULL,
	`position` integer NOT NULL,
	`step_id` text NOT NULL,
	`kind` text NOT NULL,
	`result` text NOT NULL,
	`at_ms` integer NOT NULL,
	PRIMARY KEY(`run_id`, `position`),
	FOREIGN KEY (`run_id`) REFERENCES `runs`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `runs` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`rule_id` integer NOT NULL,
	`version_id` integer NOT NULL,
	`object` text NOT NULL,
	`record_id` integer NOT NULL,
	`occurrence` text NOT NULL,
	`event_seq` integer NOT NULL,
	`chain_id` text NOT NULL,
	`depth` integer NOT NULL,
	`state` text NOT NULL,
	`because` text NOT NULL,
	`stop` text,
	`seen` text NOT NULL,
	`started_at` integer NOT NULL,
	`ended_at` integer,
	FOREIGN KEY (`rule_id`) REFERENCES `rules`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`version_id`) REFERENCES `rule_versions`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`event_seq`) REFERENCES `events`(`seq`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `runs_identity` ON `runs` (`rule_id`,`object`,`record_id`,`occurrence`);--> statement-breakpoint
CREATE INDEX `runs_chain` ON `runs` (`chain_id`,`rule_id`);--> statement-breakpoint
CREATE INDEX `runs_record` ON `runs` (`object`,`record_id`,`id`);--> statement-breakpoint
CREATE INDEX `runs_event` ON `runs` (`event_seq`);--> statement-breakpoint
CREATE TABLE `stages` (
	`id` text PRIMARY KEY NOT NULL,
	`pipeline_id` text NOT NULL,
	`name` text NOT NULL,
	`position` integer NOT NULL,
	`outcome` text NOT NULL,
	FOREIGN KEY (`pipeline_id`) REFERENCES `pipelines`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `stand_in_mail` (
	`key` text PRIMARY KEY NOT NULL,
	`recipient` text NOT NULL,
	`subject` text NOT NULL,
	`body` text NOT NULL,
	`received_at` integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE `task_acts` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`task_id` integer NOT NULL,
	`at_ms` integer NOT NULL,
	`person_id` text NOT NULL,
	`act` text NOT NULL,
	`detail` text NOT NULL,
	FOREIGN KEY (`task_id`) REFERENCES `tasks`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`person_id`) REFERENCES `people`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `task_acts_task` ON `task_acts` (`task_id`);--> statement-breakpoint
CREATE TABLE `tasks` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`object` text NOT NULL,
	`record_id` integer NOT NULL,
	`title` text NOT NULL,
	`notes` text NOT NULL,
	`task_kind` text NOT NULL,
	`priority` text NOT NULL,
	`due` text NOT NULL,
	`assignee_id` text NOT NULL,
	`state` text NOT NULL,
	`outcome` text NOT NULL,
	`because` text NOT NULL,
	`rule_id` integer NOT NULL,
	`run_id` integer NOT NULL,
	`step_id` text NOT NULL,
	`created_at` integer NOT NULL,
	`done_at` integer,
	`done_by` text,
	FOREIGN KEY (`assignee_id`) REFERENCES `people`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`rule_id`) REFERENCES `rules`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`run_id`) REFERENCES `runs`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`done_by`) REFERENCES `people`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `tasks_step` ON `tasks` (`run_id`,`step_id`);--> statement-breakpoint
CREATE INDEX `tasks_assignee` ON `tasks` (`assignee_id`,`state`,`due`);--> statement-breakpoint
CREATE INDEX `tasks_record` ON `tasks` (`object`,`record_id`,`state`);--> statement-breakpoint
CREATE TABLE `workspace` (
	`id` integer PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`zone` text NOT NULL,
	`locale` text NOT NULL,
	`currency` text NOT NULL,
	`demo` integer NOT NULL,
	`workdays` text NOT NULL
);
--> statement-breakpoint
CREATE TRIGGER `rule_versions_stay` BEFORE UPDATE ON `rule_versions` BEGIN SELECT RAISE(ABORT, 'a published version cannot be changed'); END;
--> statement-breakpoint
CREATE TRIGGER `rule_versions_kept` BEFORE DELETE ON `rule_versions` BEGIN SELECT RAISE(ABORT, 'a published version cannot be deleted'); END;
--> statement-breakpoint
CREATE TRIGGER `events_stay` BEFORE UPDATE ON `events` BEGIN SELECT RAISE(ABORT, 'the log of changes is only ever added to'); END;
