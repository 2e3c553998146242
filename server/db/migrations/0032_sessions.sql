CREATE TABLE `sessions` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`person_id` text NOT NULL,
	`hash` text NOT NULL,
	`agent` text NOT NULL,
	`created_at` integer NOT NULL,
	`last_seen_at` integer NOT NULL,
	FOREIGN KEY (`person_id`) REFERENCES `people`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `sessions_hash_unique` ON `sessions` (`hash`);--> statement-breakpoint
CREATE INDEX `sessions_person` ON `sessions` (`person_id`);--> statement-breakpoint
ALTER TABLE `api_tokens` ADD `read_only` integer DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE `api_tokens` ADD `areas` text;--> statement-breakpoint
ALTER TABLE `api_tokens` ADD `expires_at` integer;--> statement-breakpoint
ALTER TABLE `people` DROP COLUMN `session_epoch`;