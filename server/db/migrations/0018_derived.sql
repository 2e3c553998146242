CREATE TABLE `day_turn` (
	`id` integer PRIMARY KEY NOT NULL,
	`through` text NOT NULL,
	`turning` text,
	`object` text,
	`after_id` integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE `derive_jobs` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`field_ids` text NOT NULL,
	`at` integer NOT NULL,
	`after_id` integer NOT NULL,
	`done` integer NOT NULL,
	`total` integer NOT NULL,
	`person_id` text NOT NULL,
	`created_at` integer NOT NULL,
	`ended_at` integer,
	FOREIGN KEY (`person_id`) REFERENCES `people`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `derive_jobs_open` ON `derive_jobs` (`ended_at`);--> statement-breakpoint
CREATE TABLE `happenings` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`object` text NOT NULL,
	`record_id` integer NOT NULL,
	`kind` text NOT NULL,
	`about` text NOT NULL,
	`at_ms` integer NOT NULL,
	`key` text,
	`told_at` integer NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `happenings_key_unique` ON `happenings` (`key`);--> statement-breakpoint
CREATE INDEX `happenings_record` ON `happenings` (`object`,`record_id`,`at_ms`);--> statement-breakpoint
CREATE INDEX `happenings_at` ON `happenings` (`at_ms`);--> statement-breakpoint
CREATE TABLE `scorecards` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`object` text NOT NULL,
	`name` text NOT NULL,
	`key` text NOT NULL,
	`lines` text NOT NULL,
	`least` real,
	`most` real,
	`bands` text NOT NULL,
	`changed_by` text NOT NULL,
	`changed_at` integer NOT NULL,
	FOREIGN KEY (`changed_by`) REFERENCES `people`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
ALTER TABLE `fields` ADD `made` text;--> statement-breakpoint
ALTER TABLE `gone_records` ADD `happenings_given` text DEFAULT '[]' NOT NULL;