CREATE TABLE `contents` (
	`hash` text PRIMARY KEY NOT NULL,
	`json` text NOT NULL
);
--> statement-breakpoint
CREATE TABLE `edits` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`at` integer NOT NULL,
	`window` text NOT NULL,
	`title` text NOT NULL,
	`edit` text NOT NULL,
	`state` text NOT NULL
);
--> statement-breakpoint
CREATE INDEX `edits_by_window` ON `edits` (`window`,`state`);--> statement-breakpoint
CREATE TABLE `meta` (
	`key` text PRIMARY KEY NOT NULL,
	`value` text NOT NULL
);
--> statement-breakpoint
CREATE TABLE `records` (
	`id` text PRIMARY KEY NOT NULL,
	`kind` text NOT NULL,
	`version` integer NOT NULL,
	`data` text NOT NULL,
	`hash` text NOT NULL,
	`seq` integer NOT NULL
);
--> statement-breakpoint
CREATE INDEX `records_by_seq` ON `records` (`seq`);--> statement-breakpoint
CREATE INDEX `records_by_kind` ON `records` (`kind`);--> statement-breakpoint
CREATE TABLE `revision_entries` (
	`revision` integer NOT NULL,
	`id` text NOT NULL,
	`hash` text NOT NULL,
	PRIMARY KEY(`revision`, `id`),
	FOREIGN KEY (`revision`) REFERENCES `revisions`(`number`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`hash`) REFERENCES `contents`(`hash`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `revisions` (
	`number` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`at` integer NOT NULL,
	`note` text NOT NULL
);
--> statement-breakpoint
CREATE TABLE `tombstones` (
	`id` text PRIMARY KEY NOT NULL,
	`kind` text NOT NULL,
	`seq` integer NOT NULL
);
--> statement-breakpoint
CREATE INDEX `tombstones_by_seq` ON `tombstones` (`seq`);