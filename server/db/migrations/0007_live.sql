CREATE TABLE `run_block` (
	`dataset_id` integer NOT NULL,
	`start` integer NOT NULL,
	`count` integer NOT NULL,
	`data` blob NOT NULL,
	PRIMARY KEY(`dataset_id`, `start`),
	FOREIGN KEY (`dataset_id`) REFERENCES `dataset`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
ALTER TABLE `run` ADD `set_up` text;--> statement-breakpoint
ALTER TABLE `run` ADD `controls` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `run_event` ADD `target` real;--> statement-breakpoint
ALTER TABLE `run_event` ADD `role` text;