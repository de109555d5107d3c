-- Changes that are not in force yet.

-- Drafts: wanted changes that are not in force yet, so no facts. What of them is published stands
-- in the ledger.
create table draft (
  id binary(16) not null primary key,
  name varchar(80) collate utf8mb4_bin not null,
  -- who works on it; a colleague can take it over
  holder_id binary(16) not null,
  opened_by binary(16) not null,
  opened_at datetime(6) not null,
  stage varchar(10) character set ascii collate ascii_bin not null
    check (stage in ('open', 'scheduled', 'waiting', 'held', 'published', 'dropped')),
  shared boolean not null,
  -- counts whatever changes in it, so that two who change it meet
  version bigint not null,
  next_seq int not null,
  -- of what is published or is to be
  reason varchar(500) collate utf8mb4_bin not null,
  publisher_id binary(16) null,
  publish_at datetime(6) null,
  revert_at datetime(6) null,
  told boolean not null,
  seen char(64) character set ascii collate ascii_bin null,
  -- why it is on hold
  held_why varchar(1000) collate utf8mb4_bin null,
  published_position bigint null,
  reverts bigint null,
  key by_holder (holder_id, stage),
  key by_stage (stage),
  key by_position (published_position),
  foreign key (holder_id) references thing (id),
  foreign key (opened_by) references thing (id),
  foreign key (publisher_id) references thing (id),
  foreign key (published_position) references ledger_entry (position),
  foreign key (reverts) references ledger_entry (position)
);

create table draft_edit (
  draft_id binary(16) not null,
  seq int not null,
  author_id binary(16) not null,
  made_at datetime(6) not null,
  planned_at datetime(6) not null,
  act varchar(40) character set ascii collate ascii_bin not null,
  json mediumtext collate utf8mb4_bin not null,
  repeat_key varchar(100) character set ascii collate ascii_bin null,
  asked char(64) character set ascii collate ascii_bin null,
  result varchar(1000) collate utf8mb4_bin null,
  primary key (draft_id, seq),
  unique key repeated (draft_id, repeat_key),
  foreign key (draft_id) references draft (id),
  foreign key (author_id) references thing (id)
);

create table draft_comment (
  id bigint not null auto_increment primary key,
  draft_id binary(16) not null,
  author_id binary(16) not null,
  said_at datetime(6) not null,
  text varchar(500) collate utf8mb4_bin not null,
  key of_draft (draft_id, id),
  foreign key (draft_id) references draft (id),
  foreign key (author_id) references thing (id)
);

-- What somebody was shown of a draft's consequences, to tell what has grown since.
create table draft_seen (
  draft_id binary(16) not null,
  digest char(64) character set ascii collate ascii_bin not null,
  seen_at datetime(6) not null,
  marks mediumblob not null,
  primary key (draft_id, digest),
  foreign key (draft_id) references draft (id)
);

-- Which draft gathers somebody's edits.
create table open_draft (
  person_id binary(16) not null primary key,
  draft_id binary(16) not null,
  foreign key (person_id) references thing (id),
  foreign key (draft_id) references draft (id)
);
