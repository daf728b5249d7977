CREATE TABLE `pictures` (
	`hash` text PRIMARY KEY NOT NULL,
	`type` text NOT NULL,
	`bytes` blob NOT NULL
);
