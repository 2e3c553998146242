CREATE TABLE `unknown_happenings` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`visitor` text NOT NULL,
	`kind` text NOT NULL,
	`about` text NOT NULL,
	`data` text DEFAULT '{}' NOT NULL,
	`at_ms` integer NOT NULL,
	`key` text,
	`told_at` integer NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `unknown_happenings_key_unique` ON `unknown_happenings` (`key`);--> statement-breakpoint
CREATE INDEX `unknown_happenings_visitor` ON `unknown_happenings` (`visitor`,`at_ms`);--> statement-breakpoint
CREATE INDEX `unknown_happenings_at` ON `unknown_happenings` (`at_ms`);--> statement-breakpoint
CREATE TABLE `visitors` (
	`key` text PRIMARY KEY NOT NULL,
	`contact_id` integer,
	`email` text,
	`seen_at` integer NOT NULL
);
--> statement-breakpoint
CREATE INDEX `visitors_contact` ON `visitors` (`contact_id`);--> statement-breakpoint
CREATE INDEX `visitors_email` ON `visitors` (`email`);--> statement-breakpoint
CREATE TABLE `websites` (
	`host` text PRIMARY KEY NOT NULL,
	`added_at` integer NOT NULL
);
--> statement-breakpoint
ALTER TABLE `happenings` ADD `data` text DEFAULT '{}' NOT NULL;