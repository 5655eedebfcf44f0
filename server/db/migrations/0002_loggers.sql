CREATE TABLE `channel_pair` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`dataset_id` integer NOT NULL,
	`a` integer NOT NULL,
	`b` integer NOT NULL,
	`tolerance` real NOT NULL,
	`by` text NOT NULL,
	`created_at` text NOT NULL,
	FOREIGN KEY (`dataset_id`) REFERENCES `dataset`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`a`) REFERENCES `channel`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`b`) REFERENCES `channel`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
ALTER TABLE `channel` ADD `min` real;--> statement-breakpoint
ALTER TABLE `channel` ADD `max` real;--> statement-breakpoint
ALTER TABLE `channel` ADD `gaps` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `dataset` ADD `reading` text;--> statement-breakpoint
ALTER TABLE `dataset` ADD `joins_id` integer;--> statement-breakpoint
ALTER TABLE `reduction` ADD `inputs` text;