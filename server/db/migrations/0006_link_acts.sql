CREATE TABLE `link_acts` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`at_ms` integer NOT NULL,
	`from_object` text NOT NULL,
	`from_id` integer NOT NULL,
	`to_object` text NOT NULL,
	`to_id` integer NOT NULL,
	`act` text NOT NULL,
	`cause` text NOT NULL
);
--> statement-breakpoint
CREATE INDEX `link_acts_from` ON `link_acts` (`from_object`,`from_id`);--> statement-breakpoint
CREATE INDEX `link_acts_to` ON `link_acts` (`to_object`,`to_id`);