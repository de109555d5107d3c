-- Tables of what is true now, for the SQL side alone: narrow rows of integers, each way round in an index that covers,
-- people numbered in the order of their names, filters evaluated already. The product has none of this; it is the best
-- footing that could be found for SQL, so that the comparison is fair to it.
drop table if exists now_person, now_group, now_role, now_edge, now_above, now_member, now_own, now_to_group;

create table now_person (
  p int not null primary key,
  id binary(16) not null,
  active tinyint not null,
  unit varchar(100) collate utf8mb4_bin not null,
  used tinyint not null default 0,
  unique key (id),
  key (unit, p)
);
insert into now_person (p, id, active, unit)
select row_number() over (order by n.name_key, n.person_id) - 1, n.person_id, s.status = 'active', a.value
from naming n
join status s on s.person_id = n.person_id and s.valid_until = '9999-12-31'
join attribute a on a.person_id = n.person_id and a.name = 'unit' and a.valid_until = '9999-12-31'
where n.valid_until = '9999-12-31';

create table now_group (g int not null primary key, id binary(16) null, unique key (id));
insert into now_group
select row_number() over (order by group_id) - 1, group_id from group_form where valid_until = '9999-12-31';

create table now_role (e int not null primary key, id binary(16) not null, open tinyint not null, unique key (id));
insert into now_role
select row_number() over (order by entitlement_id) - 1, entitlement_id, s.state = 'open'
from entitlement e join application_state s on s.application_id = e.application_id and s.valid_until = '9999-12-31'
where e.valid_until = '9999-12-31';

create table now_edge (child int not null, parent int not null, primary key (child, parent), key (parent, child));
insert into now_edge
select c.g, p.g
from membership m join now_group c on c.id = m.member_id join now_group p on p.id = m.group_id
where m.member_kind = 'group' and m.valid_until = '9999-12-31';

create table now_member (p int not null, g int not null, primary key (p, g), key (g, p));
insert into now_member
select p.p, g.g
from membership m join now_person p on p.id = m.member_id join now_group g on g.id = m.group_id
where m.member_kind = 'person' and m.valid_until = '9999-12-31';

create table now_own (p int not null, e int not null, hand tinyint not null, primary key (p, e, hand), key (e, p, hand));
insert ignore into now_own
select p.p, r.e, g.source = 'hand'
from given g join now_person p on p.id = g.person_id join now_role r on r.id = g.entitlement_id
where g.person_id is not null and g.valid_until = '9999-12-31';

create table now_to_group (g int not null, e int not null, primary key (g, e), key (e, g));
insert ignore into now_to_group
select gr.g, r.e
from given g join now_group gr on gr.id = g.group_id join now_role r on r.id = g.entitlement_id
where g.group_id is not null and g.valid_until = '9999-12-31';
