CREATE TABLE `booking_pages` (
	`slug` text PRIMARY KEY NOT NULL,
	`page` text NOT NULL,
	`added_at` integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE `calendar_feeds` (
	`person_id` text PRIMARY KEY NOT NULL,
	`secret` text NOT NULL,
	`made_at` integer NOT NULL,
	FOREIGN KEY (`person_id`) REFERENCES `people`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `calendar_feeds_secret_unique` ON `calendar_feeds` (`secret`);