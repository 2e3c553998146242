CREATE TABLE `rates` (
	`code` text NOT NULL,
	`day` text NOT NULL,
	`per_own` real NOT NULL,
	PRIMARY KEY(`code`, `day`)
);
--> statement-breakpoint
ALTER TABLE `workspace` ADD `rates_from` text;