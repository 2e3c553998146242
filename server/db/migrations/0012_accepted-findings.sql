CREATE TABLE `accepted_findings` (
	`rule_id` integer NOT NULL,
	`key` text NOT NULL,
	`reason` text NOT NULL,
	`person_id` text NOT NULL,
	`at_ms` integer NOT NULL,
	PRIMARY KEY(`rule_id`, `key`),
	FOREIGN KEY (`rule_id`) REFERENCES `rules`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`person_id`) REFERENCES `people`(`id`) ON UPDATE no action ON DELETE no action
);
