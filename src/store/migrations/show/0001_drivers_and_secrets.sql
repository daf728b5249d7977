CREATE TABLE `drivers` (
	`id` text PRIMARY KEY NOT NULL,
	`json` text NOT NULL,
	`at` integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE `secrets` (
	`device` text PRIMARY KEY NOT NULL,
	`sealed` text NOT NULL
);
