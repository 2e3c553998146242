CREATE TABLE `intake_requests` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`intake_id` integer NOT NULL,
	`key` text,
	`body` text NOT NULL,
	`state` text NOT NULL,
	`says` text NOT NULL,
	`object` text,
	`record_id` integer,
	`at_ms` integer NOT NULL,
	FOREIGN KEY (`intake_id`) REFERENCES `intakes`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `intake_requests_key` ON `intake_requests` (`intake_id`,`key`);--> statement-breakpoint
CREATE INDEX `intake_requests_moment` ON `intake_requests` (`at_ms`);--> statement-breakpoint
CREATE TABLE `intakes` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`slug` text NOT NULL,
	`name` text NOT NULL,
	`verify` text NOT NULL,
	`into` text NOT NULL,
	`person_id` text NOT NULL,
	`archived` integer DEFAULT false NOT NULL,
	FOREIGN KEY (`person_id`) REFERENCES `people`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `intakes_slug_unique` ON `intakes` (`slug`);