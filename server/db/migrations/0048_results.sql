CREATE TABLE `measures` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`rule_id` integer NOT NULL,
	`version_id` integer NOT NULL,
	`run_id` integer NOT NULL,
	`object` text NOT NULL,
	`record_id` integer NOT NULL,
	`key` text NOT NULL,
	`at_ms` integer NOT NULL,
	`until_ms` integer NOT NULL,
	`alone` integer NOT NULL,
	`already` integer NOT NULL,
	`owner_id` text,
	`labels` text NOT NULL,
	`by_day` integer NOT NULL,
	`reached_at` integer,
	`undone` integer DEFAULT false NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `measures_once` ON `measures` (`rule_id`,`key`,`object`,`record_id`);--> statement-breakpoint
CREATE INDEX `measures_rule` ON `measures` (`rule_id`,`id`);--> statement-breakpoint
CREATE INDEX `measures_run` ON `measures` (`run_id`);--> statement-breakpoint
CREATE INDEX `measures_open` ON `measures` (`object`,`record_id`) WHERE reached_at is null and already = 0;--> statement-breakpoint
CREATE INDEX `measures_by_day` ON `measures` (`id`) WHERE reached_at is null and already = 0 and by_day = 1;--> statement-breakpoint
CREATE TABLE `result_parts` (
	`rule_id` integer NOT NULL,
	`kind` text NOT NULL,
	`part` integer NOT NULL,
	`stale` integer DEFAULT true NOT NULL,
	`figures` text,
	`gone` text,
	PRIMARY KEY(`rule_id`, `kind`, `part`)
);
--> statement-breakpoint
CREATE INDEX `result_parts_stale` ON `result_parts` (`rule_id`) WHERE stale = 1;--> statement-breakpoint
CREATE TABLE `result_totals` (
	`rule_id` integer PRIMARY KEY NOT NULL,
	`figures` text NOT NULL
);
--> statement-breakpoint
ALTER TABLE `messages` ADD `opted_out_at` integer;