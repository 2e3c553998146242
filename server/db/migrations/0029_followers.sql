CREATE TABLE `task_followers` (
	`person_id` text NOT NULL,
	`task_id` integer NOT NULL,
	PRIMARY KEY(`task_id`, `person_id`),
	FOREIGN KEY (`person_id`) REFERENCES `people`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`task_id`) REFERENCES `tasks`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `task_followers_person` ON `task_followers` (`person_id`,`task_id`);