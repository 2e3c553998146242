CREATE TABLE `tellings` (
	`person_id` text PRIMARY KEY NOT NULL,
	`telling` text NOT NULL,
	`told_to` integer NOT NULL,
	`next_at` integer,
	`sent` integer DEFAULT 0 NOT NULL,
	FOREIGN KEY (`person_id`) REFERENCES `people`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `tellings_due` ON `tellings` (`next_at`);