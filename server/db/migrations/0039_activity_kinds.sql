CREATE TABLE `activity_kinds` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`kind` text NOT NULL,
	`did` text NOT NULL,
	`does` text NOT NULL,
	`one` text NOT NULL,
	`many` text NOT NULL,
	`about` text NOT NULL,
	`data` text NOT NULL,
	`example` text NOT NULL,
	`archived` integer DEFAULT false NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `activity_kinds_kind_unique` ON `activity_kinds` (`kind`);