CREATE TABLE `api_tokens` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`person_id` text NOT NULL,
	`name` text NOT NULL,
	`hash` text NOT NULL,
	`start` text NOT NULL,
	`created_at` integer NOT NULL,
	`last_used_at` integer,
	`revoked_at` integer,
	FOREIGN KEY (`person_id`) REFERENCES `people`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `api_tokens_hash_unique` ON `api_tokens` (`hash`);--> statement-breakpoint
CREATE INDEX `api_tokens_person` ON `api_tokens` (`person_id`);--> statement-breakpoint
ALTER TABLE `people` ADD `password_hash` text;--> statement-breakpoint
ALTER TABLE `people` ADD `session_epoch` integer DEFAULT 0 NOT NULL;