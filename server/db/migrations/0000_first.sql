CREATE TABLE `article` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`campaign_id` integer NOT NULL,
	`name` text NOT NULL,
	`family` text NOT NULL,
	`note` text DEFAULT '' NOT NULL,
	`created_at` text NOT NULL,
	FOREIGN KEY (`campaign_id`) REFERENCES `campaign`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `audit` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`at` text NOT NULL,
	`who` text NOT NULL,
	`what` text NOT NULL,
	`entity` text NOT NULL,
	`entity_id` integer,
	`before` text,
	`after` text,
	`previous_hash` text NOT NULL,
	`hash` text NOT NULL
);
--> statement-breakpoint
CREATE TABLE `campaign` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`slug` text NOT NULL,
	`title` text NOT NULL,
	`purpose` text DEFAULT '' NOT NULL,
	`due` text,
	`system` text DEFAULT 'metric' NOT NULL,
	`rule` text DEFAULT 'guarded' NOT NULL,
	`convention` text DEFAULT 'margin-of-safety' NOT NULL,
	`materials` text NOT NULL,
	`created_at` text NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `campaign_slug_unique` ON `campaign` (`slug`);--> statement-breakpoint
CREATE TABLE `channel` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`dataset_id` integer NOT NULL,
	`role` text NOT NULL,
	`name` text DEFAULT '' NOT NULL,
	`used` integer DEFAULT true NOT NULL,
	`unit` text NOT NULL,
	`conversion` text,
	`sensor_id` integer,
	`health` text,
	FOREIGN KEY (`dataset_id`) REFERENCES `dataset`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `channel_role` ON `channel` (`dataset_id`,`role`);--> statement-breakpoint
CREATE TABLE `chunk` (
	`channel_id` integer NOT NULL,
	`seq` integer NOT NULL,
	`start` integer NOT NULL,
	`count` integer NOT NULL,
	`gaps` integer NOT NULL,
	`min` real,
	`max` real,
	`mean` real,
	`extremes` blob NOT NULL,
	`data` blob NOT NULL,
	PRIMARY KEY(`channel_id`, `seq`),
	FOREIGN KEY (`channel_id`) REFERENCES `channel`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `dataset` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`test_id` integer NOT NULL,
	`source` text NOT NULL,
	`name` text NOT NULL,
	`status` text NOT NULL,
	`sha256` text,
	`channel_map` text,
	`warnings` text NOT NULL,
	`rows` integer DEFAULT 0 NOT NULL,
	`clock_offset` real DEFAULT 0 NOT NULL,
	`import_state` text,
	`created_at` text NOT NULL,
	FOREIGN KEY (`test_id`) REFERENCES `test`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `dataset_sha` ON `dataset` (`sha256`);--> statement-breakpoint
CREATE TABLE `job` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`kind` text NOT NULL,
	`status` text NOT NULL,
	`progress` real DEFAULT 0 NOT NULL,
	`doing` text DEFAULT '' NOT NULL,
	`payload` text NOT NULL,
	`result` text,
	`error` text,
	`created_at` text NOT NULL
);
--> statement-breakpoint
CREATE TABLE `judgement` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`test_id` integer NOT NULL,
	`reduction_id` integer NOT NULL,
	`validity` text NOT NULL,
	`cause` text NOT NULL,
	`place` text DEFAULT '' NOT NULL,
	`mode` text DEFAULT '' NOT NULL,
	`note` text DEFAULT '' NOT NULL,
	`verdicts` text NOT NULL,
	`by` text NOT NULL,
	`created_at` text NOT NULL,
	FOREIGN KEY (`test_id`) REFERENCES `test`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`reduction_id`) REFERENCES `reduction`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `design_limit` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`article_id` integer NOT NULL,
	`name` text NOT NULL,
	`quantity` text NOT NULL,
	`comparator` text NOT NULL,
	`level` text NOT NULL,
	`entered` text NOT NULL,
	`value` real NOT NULL,
	`source` text DEFAULT '' NOT NULL,
	`created_at` text NOT NULL,
	FOREIGN KEY (`article_id`) REFERENCES `article`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `prediction` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`test_id` integer NOT NULL,
	`quantity` text NOT NULL,
	`value` real NOT NULL,
	`u` real NOT NULL,
	`k` real DEFAULT 2 NOT NULL,
	`bound` text NOT NULL,
	`source` text NOT NULL,
	`created_at` text NOT NULL,
	`locked_at` text,
	FOREIGN KEY (`test_id`) REFERENCES `test`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `ready_mark` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`test_id` integer NOT NULL,
	`key` text NOT NULL,
	`state` text NOT NULL,
	`by` text NOT NULL,
	`reason` text DEFAULT '' NOT NULL,
	`at` text NOT NULL,
	FOREIGN KEY (`test_id`) REFERENCES `test`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `ready_mark_key` ON `ready_mark` (`test_id`,`key`);--> statement-breakpoint
CREATE TABLE `reduction` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`test_id` integer NOT NULL,
	`dataset_id` integer NOT NULL,
	`family` text NOT NULL,
	`method_version` text NOT NULL,
	`software_version` text NOT NULL,
	`settings` text NOT NULL,
	`sensors` text NOT NULL,
	`input_sha256` text NOT NULL,
	`output` text NOT NULL,
	`output_sha256` text NOT NULL,
	`figures` text NOT NULL,
	`supersedes_id` integer,
	`by` text NOT NULL,
	`created_at` text NOT NULL,
	FOREIGN KEY (`test_id`) REFERENCES `test`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`dataset_id`) REFERENCES `dataset`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `revision` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`article_id` integer NOT NULL,
	`parent_id` integer,
	`label` text NOT NULL,
	`changed` text DEFAULT '' NOT NULL,
	`why` text DEFAULT '' NOT NULL,
	`finding_reduction_id` integer,
	`mass` real,
	`properties` text NOT NULL,
	`created_at` text NOT NULL,
	FOREIGN KEY (`article_id`) REFERENCES `article`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `revision_label` ON `revision` (`article_id`,`label`);--> statement-breakpoint
CREATE TABLE `run` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`test_id` integer NOT NULL,
	`dataset_id` integer NOT NULL,
	`source` text NOT NULL,
	`status` text NOT NULL,
	`pace` real DEFAULT 1 NOT NULL,
	`seed` integer DEFAULT 0 NOT NULL,
	`rig_state` text,
	`end` text,
	`by` text NOT NULL,
	`started_at` text NOT NULL,
	`ended_at` text,
	FOREIGN KEY (`test_id`) REFERENCES `test`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`dataset_id`) REFERENCES `dataset`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `run_event` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`run_id` integer NOT NULL,
	`t` real NOT NULL,
	`kind` text NOT NULL,
	`rung` integer,
	`value` real,
	`reading` real,
	`note` text DEFAULT '' NOT NULL,
	`by` text NOT NULL,
	`at` text NOT NULL,
	FOREIGN KEY (`run_id`) REFERENCES `run`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `run_event_run` ON `run_event` (`run_id`);--> statement-breakpoint
CREATE TABLE `sensor` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`name` text NOT NULL,
	`kind` text NOT NULL,
	`specification` text NOT NULL,
	`calibration_due` text,
	`created_at` text NOT NULL
);
--> statement-breakpoint
CREATE TABLE `test` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`revision_id` integer NOT NULL,
	`family` text NOT NULL,
	`title` text NOT NULL,
	`plan` text,
	`created_at` text NOT NULL,
	FOREIGN KEY (`revision_id`) REFERENCES `revision`(`id`) ON UPDATE no action ON DELETE no action
);
