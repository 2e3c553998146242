CREATE TABLE `left_out` (
	`run_id` integer NOT NULL,
	`step_id` text NOT NULL,
	`object` text NOT NULL,
	`record_id` integer NOT NULL,
	`rule_id` integer NOT NULL,
	`code` text NOT NULL,
	`says` text NOT NULL,
	`at_ms` integer NOT NULL,
	PRIMARY KEY(`run_id`, `step_id`, `object`, `record_id`)
);
--> statement-breakpoint
CREATE INDEX `left_out_moment` ON `left_out` (`at_ms`);--> statement-breakpoint
CREATE TABLE `problems` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`kind` text NOT NULL,
	`key` text NOT NULL,
	`says` text NOT NULL,
	`count` integer NOT NULL,
	`rule_id` integer,
	`object` text,
	`record_id` integer,
	`path` text NOT NULL,
	`since_ms` integer NOT NULL,
	`seen_ms` integer NOT NULL,
	`person_id` text,
	`accepted_until` integer,
	`accepted_by` text,
	FOREIGN KEY (`person_id`) REFERENCES `people`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`accepted_by`) REFERENCES `people`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `problems_cause` ON `problems` (`kind`,`key`);--> statement-breakpoint
CREATE INDEX `outbox_given_up` ON `outbox` (`id`) WHERE state = 'givenUp';