CREATE TABLE `as_run` (
	`n` integer PRIMARY KEY NOT NULL,
	`at` integer NOT NULL,
	`kind` text NOT NULL,
	`row` text NOT NULL
);
--> statement-breakpoint
CREATE INDEX `as_run_by_at` ON `as_run` (`at`);--> statement-breakpoint
CREATE TABLE `engine_state` (
	`key` text PRIMARY KEY NOT NULL,
	`value` text NOT NULL
);
