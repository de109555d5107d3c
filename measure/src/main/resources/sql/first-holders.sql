select n.id
from now_person n
where n.active = 1
  and (
    exists (select 1 from now_own o where o.e = ? and o.p = n.p)
    or exists (
      select 1 from now_member m join now_above a on a.g = m.g join now_to_group t on t.g = a.above and t.e = ?
      where m.p = n.p
    )
  )
order by n.p
limit 50
