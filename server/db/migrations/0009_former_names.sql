CREATE TABLE `former_names` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`what` text NOT NULL,
	`of` text NOT NULL,
	`name` text NOT NULL,
	`until_ms` integer NOT NULL
);
