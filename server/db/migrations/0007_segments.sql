CREATE TABLE `segments` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`object` text NOT NULL,
	`name` text NOT NULL,
	`filter` text NOT NULL,
	`columns` text NOT NULL,
	`sort` text NOT NULL,
	`down` integer NOT NULL,
	`created_by` text NOT NULL,
	`created_at` integer NOT NULL,
	`changed_at` integer NOT NULL,
	FOREIGN KEY (`created_by`) REFERENCES `people`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `segments_name` ON `segments` (`object`,`name`);--> statement-breakpoint
ALTER TABLE `choices` ADD `archived` integer DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE `stages` ADD `probability` integer;--> statement-breakpoint
ALTER TABLE `stages` ADD `archived` integer DEFAULT false NOT NULL;