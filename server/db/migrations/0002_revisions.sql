CREATE TABLE `revisions` (
	`what` text PRIMARY KEY NOT NULL,
	`n` integer NOT NULL
);
