CREATE TABLE `held_starts` (
	`rule_id` integer NOT NULL,
	`event_seq` integer NOT NULL,
	PRIMARY KEY(`rule_id`, `event_seq`),
	FOREIGN KEY (`rule_id`) REFERENCES `rules`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`event_seq`) REFERENCES `events`(`seq`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `rule_hours` (
	`rule_id` integer NOT NULL,
	`hour` integer NOT NULL,
	`starts` integer NOT NULL,
	PRIMARY KEY(`rule_id`, `hour`),
	FOREIGN KEY (`rule_id`) REFERENCES `rules`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `rule_jobs` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`rule_id` integer NOT NULL,
	`work` text NOT NULL,
	`state` text NOT NULL,
	`position` integer NOT NULL,
	`done` integer NOT NULL,
	`total` integer NOT NULL,
	`left` text NOT NULL,
	`person_id` text NOT NULL,
	`created_at` integer NOT NULL,
	`ended_at` integer,
	FOREIGN KEY (`rule_id`) REFERENCES `rules`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`person_id`) REFERENCES `people`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `rule_jobs_rule` ON `rule_jobs` (`rule_id`);--> statement-breakpoint
ALTER TABLE `rules` ADD `paused` text;--> statement-breakpoint
ALTER TABLE `runs` ADD `undone_by` text REFERENCES people(id);--> statement-breakpoint
ALTER TABLE `runs` ADD `undone_at` integer;