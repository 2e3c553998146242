CREATE TABLE `visits` (
	`person_id` text PRIMARY KEY NOT NULL,
	`at_ms` integer NOT NULL,
	`before_ms` integer,
	FOREIGN KEY (`person_id`) REFERENCES `people`(`id`) ON UPDATE no action ON DELETE no action
);
