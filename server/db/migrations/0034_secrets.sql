CREATE TABLE `secrets` (
	`name` text PRIMARY KEY NOT NULL,
	`value` text NOT NULL
);
