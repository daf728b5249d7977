CREATE TABLE `revision_drivers` (
	`revision` integer NOT NULL,
	`id` text NOT NULL,
	`hash` text NOT NULL,
	PRIMARY KEY(`revision`, `id`),
	FOREIGN KEY (`revision`) REFERENCES `revisions`(`number`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`hash`) REFERENCES `contents`(`hash`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
ALTER TABLE `edits` ADD `beside` text;--> statement-breakpoint
ALTER TABLE `revisions` ADD `has_drivers` integer DEFAULT false NOT NULL;