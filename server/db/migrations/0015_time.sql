CREATE TABLE `territories` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`name` text NOT NULL,
	`filter` text NOT NULL,
	`person_id` text NOT NULL,
	`position` integer NOT NULL,
	FOREIGN KEY (`person_id`) REFERENCES `people`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `territories_name_unique` ON `territories` (`name`);--> statement-breakpoint
CREATE TABLE `timers` (
	`rule_id` integer NOT NULL,
	`trigger_id` text NOT NULL,
	`due_ms` integer NOT NULL,
	`position` integer NOT NULL,
	PRIMARY KEY(`rule_id`, `trigger_id`),
	FOREIGN KEY (`rule_id`) REFERENCES `rules`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `timers_due` ON `timers` (`due_ms`);--> statement-breakpoint
CREATE TABLE `waits` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`run_id` integer NOT NULL,
	`rule_id` integer NOT NULL,
	`object` text NOT NULL,
	`record_id` integer NOT NULL,
	`step_id` text NOT NULL,
	`then` text NOT NULL,
	`due_ms` integer,
	`anchor` text,
	`awaited` text,
	`since_ms` integer NOT NULL,
	`since_seq` integer NOT NULL,
	`moved` text,
	FOREIGN KEY (`run_id`) REFERENCES `runs`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`rule_id`) REFERENCES `rules`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `waits_due` ON `waits` (`due_ms`);--> statement-breakpoint
CREATE INDEX `waits_record` ON `waits` (`object`,`record_id`);--> statement-breakpoint
CREATE INDEX `waits_rule` ON `waits` (`rule_id`);--> statement-breakpoint
CREATE INDEX `waits_run` ON `waits` (`run_id`);--> statement-breakpoint
CREATE TABLE `__new_tasks` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`object` text NOT NULL,
	`record_id` integer NOT NULL,
	`title` text NOT NULL,
	`notes` text NOT NULL,
	`task_kind` text NOT NULL,
	`priority` text NOT NULL,
	`due` text NOT NULL,
	`assignee_id` text,
	`queue` text,
	`remind_at` integer,
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
INSERT INTO `__new_tasks`("id", "object", "record_id", "title", "notes", "task_kind", "priority", "due", "assignee_id", "state", "outcome", "because", "rule_id", "run_id", "step_id", "created_at", "done_at", "done_by") SELECT "id", "object", "record_id", "title", "notes", "task_kind", "priority", "due", "assignee_id", "state", "outcome", "because", "rule_id", "run_id", "step_id", "created_at", "done_at", "done_by" FROM `tasks`;--> statement-breakpoint
DROP TABLE `tasks`;--> statement-breakpoint
ALTER TABLE `__new_tasks` RENAME TO `tasks`;--> statement-breakpoint
CREATE INDEX `tasks_step` ON `tasks` (`run_id`,`step_id`);--> statement-breakpoint
CREATE INDEX `tasks_assignee` ON `tasks` (`assignee_id`,`state`,`due`);--> statement-breakpoint
CREATE INDEX `tasks_record` ON `tasks` (`object`,`record_id`,`state`);--> statement-breakpoint
CREATE INDEX `tasks_queue` ON `tasks` (`queue`,`state`,`due`);--> statement-breakpoint
CREATE INDEX `tasks_remind` ON `tasks` (`remind_at`);--> statement-breakpoint
ALTER TABLE `people` ADD `zone` text;--> statement-breakpoint
ALTER TABLE `workspace` ADD `opens_at` integer DEFAULT 540 NOT NULL;--> statement-breakpoint
ALTER TABLE `workspace` ADD `closes_at` integer DEFAULT 1020 NOT NULL;--> statement-breakpoint
ALTER TABLE `workspace` ADD `clock_ahead_ms` integer DEFAULT 0 NOT NULL;