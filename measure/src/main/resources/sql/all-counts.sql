select held.e, count(*)
from (
  select t.e, m.p from now_to_group t join now_above a on a.above = t.g join now_member m on m.g = a.g
  union
  select e, p from now_own
) held
join now_person n on n.p = held.p
where n.active = 1
group by held.e
