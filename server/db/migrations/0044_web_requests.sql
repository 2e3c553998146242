CREATE TABLE `connections` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`name` text NOT NULL,
	`address` text NOT NULL,
	`headers` text NOT NULL,
	`archived` integer DEFAULT false NOT NULL
);
--> statement-breakpoint
CREATE TABLE `web_requests` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`key` text NOT NULL,
	`connection_id` integer NOT NULL,
	`object` text NOT NULL,
	`record_id` integer NOT NULL,
	`rule_id` integer NOT NULL,
	`run_id` integer NOT NULL,
	`step_id` text NOT NULL,
	`method` text NOT NULL,
	`path` text NOT NULL,
	`body` text,
	`outcome` text,
	`status` integer,
	`answer` text,
	`at_ms` integer NOT NULL,
	`answered_at` integer
);
--> statement-breakpoint
CREATE UNIQUE INDEX `web_requests_key_unique` ON `web_requests` (`key`);--> statement-breakpoint
CREATE INDEX `web_requests_run` ON `web_requests` (`run_id`);--> statement-breakpoint
CREATE INDEX `web_requests_moment` ON `web_requests` (`at_ms`,`id`);--> statement-breakpoint
ALTER TABLE `workspace` ADD `simulated_answer` text;