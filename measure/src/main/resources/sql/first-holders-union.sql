select n.id
from (
  select m.p from now_to_group t join now_above a on a.above = t.g join now_member m on m.g = a.g where t.e = ?
  union
  select p from now_own where e = ?
) held
join now_person n on n.p = held.p
where n.active = 1
order by held.p
limit 50
