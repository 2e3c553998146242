CREATE TABLE `calendar_uids` (
	`uid` text PRIMARY KEY NOT NULL,
	`appointment_id` integer NOT NULL
);
