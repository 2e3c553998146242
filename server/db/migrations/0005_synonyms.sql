CREATE TABLE `synonym_sets` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`name` text NOT NULL,
	`groups` text NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `synonym_sets_name_unique` ON `synonym_sets` (`name`);--> statement-breakpoint
ALTER TABLE `fields` ADD `synonyms` integer REFERENCES synonym_sets(id);