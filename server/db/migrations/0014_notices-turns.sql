CREATE TABLE `notices` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`person_id` text NOT NULL,
	`object` text NOT NULL,
	`record_id` integer NOT NULL,
	`subject` text NOT NULL,
	`body` text NOT NULL,
	`rule_id` integer NOT NULL,
	`run_id` integer NOT NULL,
	`at_ms` integer NOT NULL,
	`read_at` integer,
	FOREIGN KEY (`person_id`) REFERENCES `people`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`rule_id`) REFERENCES `rules`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`run_id`) REFERENCES `runs`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `notices_person` ON `notices` (`person_id`,`read_at`,`id`);--> statement-breakpoint
CREATE TABLE `turns` (
	`rule_id` integer NOT NULL,
	`step_id` text NOT NULL,
	`taken` integer NOT NULL,
	PRIMARY KEY(`rule_id`, `step_id`),
	FOREIGN KEY (`rule_id`) REFERENCES `rules`(`id`) ON UPDATE no action ON DELETE no action
);
