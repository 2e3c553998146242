CREATE TABLE `gone_records` (
	`object` text NOT NULL,
	`id` integer NOT NULL,
	`name` text NOT NULL,
	`held` text NOT NULL,
	`version` integer NOT NULL,
	`created_at` integer NOT NULL,
	`links` text NOT NULL,
	`into_id` integer,
	`into_seq` integer,
	`links_given` text NOT NULL,
	`tasks_given` text NOT NULL,
	`seq` integer NOT NULL,
	`at_ms` integer NOT NULL,
	`person_id` text NOT NULL,
	PRIMARY KEY(`object`, `id`),
	FOREIGN KEY (`seq`) REFERENCES `events`(`seq`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`person_id`) REFERENCES `people`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `gone_records_seq_unique` ON `gone_records` (`seq`);--> statement-breakpoint
CREATE INDEX `gone_records_into` ON `gone_records` (`object`,`into_id`);