CREATE TABLE `table_version` (
	`name` text PRIMARY KEY NOT NULL,
	`version` integer NOT NULL
);

--> statement-breakpoint
INSERT INTO `table_version` (`name`, `version`) VALUES ('article', 0), ('revision', 0), ('test', 0), ('design_limit', 0), ('prediction', 0), ('run', 0), ('dataset', 0), ('reduction', 0), ('judgement', 0), ('ready_mark', 0), ('plan_digest', 0);
--> statement-breakpoint
CREATE TRIGGER `article_insert_counted` AFTER INSERT ON `article` BEGIN UPDATE `table_version` SET `version` = `version` + 1 WHERE `name` = 'article'; END;
--> statement-breakpoint
CREATE TRIGGER `article_update_counted` AFTER UPDATE ON `article` BEGIN UPDATE `table_version` SET `version` = `version` + 1 WHERE `name` = 'article'; END;
--> statement-breakpoint
CREATE TRIGGER `article_delete_counted` AFTER DELETE ON `article` BEGIN UPDATE `table_version` SET `version` = `version` + 1 WHERE `name` = 'article'; END;
--> statement-breakpoint
CREATE TRIGGER `revision_insert_counted` AFTER INSERT ON `revision` BEGIN UPDATE `table_version` SET `version` = `version` + 1 WHERE `name` = 'revision'; END;
--> statement-breakpoint
CREATE TRIGGER `revision_update_counted` AFTER UPDATE ON `revision` BEGIN UPDATE `table_version` SET `version` = `version` + 1 WHERE `name` = 'revision'; END;
--> statement-breakpoint
CREATE TRIGGER `revision_delete_counted` AFTER DELETE ON `revision` BEGIN UPDATE `table_version` SET `version` = `version` + 1 WHERE `name` = 'revision'; END;
--> statement-breakpoint
CREATE TRIGGER `test_insert_counted` AFTER INSERT ON `test` BEGIN UPDATE `table_version` SET `version` = `version` + 1 WHERE `name` = 'test'; END;
--> statement-breakpoint
CREATE TRIGGER `test_update_counted` AFTER UPDATE ON `test` BEGIN UPDATE `table_version` SET `version` = `version` + 1 WHERE `name` = 'test'; END;
--> statement-breakpoint
CREATE TRIGGER `test_delete_counted` AFTER DELETE ON `test` BEGIN UPDATE `table_version` SET `version` = `version` + 1 WHERE `name` = 'test'; END;
--> statement-breakpoint
CREATE TRIGGER `design_limit_insert_counted` AFTER INSERT ON `design_limit` BEGIN UPDATE `table_version` SET `version` = `version` + 1 WHERE `name` = 'design_limit'; END;
--> statement-breakpoint
CREATE TRIGGER `design_limit_update_counted` AFTER UPDATE ON `design_limit` BEGIN UPDATE `table_version` SET `version` = `version` + 1 WHERE `name` = 'design_limit'; END;
--> statement-breakpoint
CREATE TRIGGER `design_limit_delete_counted` AFTER DELETE ON `design_limit` BEGIN UPDATE `table_version` SET `version` = `version` + 1 WHERE `name` = 'design_limit'; END;
--> statement-breakpoint
CREATE TRIGGER `prediction_insert_counted` AFTER INSERT ON `prediction` BEGIN UPDATE `table_version` SET `version` = `version` + 1 WHERE `name` = 'prediction'; END;
--> statement-breakpoint
CREATE TRIGGER `prediction_update_counted` AFTER UPDATE ON `prediction` BEGIN UPDATE `table_version` SET `version` = `version` + 1 WHERE `name` = 'prediction'; END;
--> statement-breakpoint
CREATE TRIGGER `prediction_delete_counted` AFTER DELETE ON `prediction` BEGIN UPDATE `table_version` SET `version` = `version` + 1 WHERE `name` = 'prediction'; END;
--> statement-breakpoint
CREATE TRIGGER `run_insert_counted` AFTER INSERT ON `run` BEGIN UPDATE `table_version` SET `version` = `version` + 1 WHERE `name` = 'run'; END;
--> statement-breakpoint
CREATE TRIGGER `run_update_counted` AFTER UPDATE ON `run` BEGIN UPDATE `table_version` SET `version` = `version` + 1 WHERE `name` = 'run'; END;
--> statement-breakpoint
CREATE TRIGGER `run_delete_counted` AFTER DELETE ON `run` BEGIN UPDATE `table_version` SET `version` = `version` + 1 WHERE `name` = 'run'; END;
--> statement-breakpoint
CREATE TRIGGER `dataset_insert_counted` AFTER INSERT ON `dataset` BEGIN UPDATE `table_version` SET `version` = `version` + 1 WHERE `name` = 'dataset'; END;
--> statement-breakpoint
CREATE TRIGGER `dataset_update_counted` AFTER UPDATE ON `dataset` BEGIN UPDATE `table_version` SET `version` = `version` + 1 WHERE `name` = 'dataset'; END;
--> statement-breakpoint
CREATE TRIGGER `dataset_delete_counted` AFTER DELETE ON `dataset` BEGIN UPDATE `table_version` SET `version` = `version` + 1 WHERE `name` = 'dataset'; END;
--> statement-breakpoint
CREATE TRIGGER `reduction_insert_counted` AFTER INSERT ON `reduction` BEGIN UPDATE `table_version` SET `version` = `version` + 1 WHERE `name` = 'reduction'; END;
--> statement-breakpoint
CREATE TRIGGER `reduction_update_counted` AFTER UPDATE ON `reduction` BEGIN UPDATE `table_version` SET `version` = `version` + 1 WHERE `name` = 'reduction'; END;
--> statement-breakpoint
CREATE TRIGGER `reduction_delete_counted` AFTER DELETE ON `reduction` BEGIN UPDATE `table_version` SET `version` = `version` + 1 WHERE `name` = 'reduction'; END;
--> statement-breakpoint
CREATE TRIGGER `judgement_insert_counted` AFTER INSERT ON `judgement` BEGIN UPDATE `table_version` SET `version` = `version` + 1 WHERE `name` = 'judgement'; END;
--> statement-breakpoint
CREATE TRIGGER `judgement_update_counted` AFTER UPDATE ON `judgement` BEGIN UPDATE `table_version` SET `version` = `version` + 1 WHERE `name` = 'judgement'; END;
--> statement-breakpoint
CREATE TRIGGER `judgement_delete_counted` AFTER DELETE ON `judgement` BEGIN UPDATE `table_version` SET `version` = `version` + 1 WHERE `name` = 'judgement'; END;
--> statement-breakpoint
CREATE TRIGGER `ready_mark_insert_counted` AFTER INSERT ON `ready_mark` BEGIN UPDATE `table_version` SET `version` = `version` + 1 WHERE `name` = 'ready_mark'; END;
--> statement-breakpoint
CREATE TRIGGER `ready_mark_update_counted` AFTER UPDATE ON `ready_mark` BEGIN UPDATE `table_version` SET `version` = `version` + 1 WHERE `name` = 'ready_mark'; END;
--> statement-breakpoint
CREATE TRIGGER `ready_mark_delete_counted` AFTER DELETE ON `ready_mark` BEGIN UPDATE `table_version` SET `version` = `version` + 1 WHERE `name` = 'ready_mark'; END;
--> statement-breakpoint
CREATE TRIGGER `plan_digest_insert_counted` AFTER INSERT ON `plan_digest` BEGIN UPDATE `table_version` SET `version` = `version` + 1 WHERE `name` = 'plan_digest'; END;
--> statement-breakpoint
CREATE TRIGGER `plan_digest_update_counted` AFTER UPDATE ON `plan_digest` BEGIN UPDATE `table_version` SET `version` = `version` + 1 WHERE `name` = 'plan_digest'; END;
--> statement-breakpoint
CREATE TRIGGER `plan_digest_delete_counted` AFTER DELETE ON `plan_digest` BEGIN UPDATE `table_version` SET `version` = `version` + 1 WHERE `name` = 'plan_digest'; END;
