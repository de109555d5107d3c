-- Each edge on a way from the person to a group that is given it, with that group.
with recursive up (g) as (
  select g from now_member where p = ?
  union
  select e.parent from up join now_edge e on e.child = up.g
),
subject (g) as (select t.g from now_to_group t join up on up.g = t.g where t.e = ?)
select s.g as subject, null as below, m.g as above
from subject s
join now_member m on m.p = ?
join now_above a on a.g = m.g and a.above = s.g
union all
select s.g, e.child, e.parent
from subject s
join up on true
join now_edge e on e.child = up.g
join now_above a on a.g = e.parent and a.above = s.g
union all
select null, null, null from now_own where p = ? and e = ?
