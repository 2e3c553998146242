CREATE TABLE `put_off` (
	`object` text NOT NULL,
	`record_id` integer NOT NULL,
	PRIMARY KEY(`object`, `record_id`)
);
