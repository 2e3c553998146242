CREATE TABLE `kept_answers` (
	`person_id` text NOT NULL,
	`key` text NOT NULL,
	`fingerprint` text NOT NULL,
	`answer` text,
	`tag` text,
	`at_ms` integer NOT NULL,
	PRIMARY KEY(`person_id`, `key`),
	FOREIGN KEY (`person_id`) REFERENCES `people`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `kept_answers_at` ON `kept_answers` (`at_ms`);--> statement-breakpoint
CREATE TABLE `known_headings` (
	`headings` text PRIMARY KEY NOT NULL,
	`mapping` text NOT NULL,
	`used_at` integer NOT NULL
);
