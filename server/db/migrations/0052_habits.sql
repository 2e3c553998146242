CREATE TABLE `habit_searches` (
	`id` integer PRIMARY KEY NOT NULL,
	`state` text NOT NULL,
	`begun_at` integer NOT NULL,
	`ended_at` integer,
	`looked` integer NOT NULL,
	`total` integer NOT NULL,
	`asked` text
);
--> statement-breakpoint
CREATE TABLE `habits` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`object` text NOT NULL,
	`name` text NOT NULL,
	`habit` text NOT NULL,
	`past` text NOT NULL,
	`found_at` integer NOT NULL,
	`dismissed_by` text,
	`rule_id` integer,
	FOREIGN KEY (`dismissed_by`) REFERENCES `people`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `habits_name` ON `habits` (`object`,`name`);