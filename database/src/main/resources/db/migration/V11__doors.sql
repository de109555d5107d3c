-- Who asked for a link; null for the first steward's.
alter table one_time_link add column asked_by binary(16) null after person_id;

-- An address to write to that is no longer anybody's; emptied when the mail has gone.
alter table outbox add column address varchar(1000) collate utf8mb4_bin null;

-- What was sent with an idempotency key: a hash of method, address and body (hex SHA-256).
alter table repeated_act add column asked char(64) character set ascii collate ascii_bin null;
alter table draft_edit
  add column asked char(64) character set ascii collate ascii_bin null after repeat_key,
  add column result varchar(1000) collate utf8mb4_bin null after asked;
