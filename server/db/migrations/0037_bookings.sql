CREATE TABLE `bookings` (
	`appointment_id` integer PRIMARY KEY NOT NULL,
	`slug` text NOT NULL
);
