CREATE TABLE `stand_in_calls` (
	`key` text PRIMARY KEY NOT NULL,
	`number` text NOT NULL,
	`name` text NOT NULL,
	`script` text NOT NULL,
	`received_at` integer NOT NULL,
	`result` text,
	`act` text,
	`act_at` integer
);
--> statement-breakpoint
CREATE INDEX `stand_in_calls_act` ON `stand_in_calls` (`act_at`) WHERE act_at is not null;--> statement-breakpoint
ALTER TABLE `tasks` ADD `asks` text;