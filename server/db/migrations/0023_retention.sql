CREATE TABLE `retention` (
	`kind` text PRIMARY KEY NOT NULL,
	`said` integer NOT NULL,
	`days` integer,
	`person_id` text,
	`cut_ms` integer,
	`swept_at` integer,
	FOREIGN KEY (`person_id`) REFERENCES `people`(`id`) ON UPDATE no action ON DELETE no action
);
