ALTER TABLE shop_suppliers ADD terms jsonb NOT NULL DEFAULT '{}';

ALTER TABLE sequence_operations ADD stated_at timestamp with time zone;

update sequence_operations o set stated_at = (select max(e.stop) from labour_entries e where e.operation_id = o.id and e.replaced_by is null and not e.void)
where o.stated_share is not null;

create temporary table places on commit drop as
select s.id as station, n, case when n = 1 then s.id else gen_random_uuid() end as id, s.count
from shop_stations s cross join lateral generate_series(1, s.count) n
where s.count > 1 and s.kind in ('Bay', 'Prep', 'Booth', 'Blast', 'Jig', 'Lift');

insert into shop_stations (id, name, kind, count, x_mm, y_mm, width_mm, depth_mm, door_height_mm, walled, terms)
select p.id, s.name || ' ' || p.n, s.kind, 1,
    case when s.width_mm >= s.depth_mm then s.x_mm + (p.n - 1) * (s.width_mm / p.count) else s.x_mm end,
    case when s.width_mm >= s.depth_mm then s.y_mm else s.y_mm + (p.n - 1) * (s.depth_mm / p.count) end,
    case when s.width_mm >= s.depth_mm then greatest(300, s.width_mm / p.count) else s.width_mm end,
    case when s.width_mm >= s.depth_mm then s.depth_mm else greatest(300, s.depth_mm / p.count) end,
    s.door_height_mm, s.walled, s.terms
from places p join shop_stations s on s.id = p.station where p.n > 1;

update builds b set station_id = p.id
from (select id, station_id, row_number() over (partition by station_id order by number) as n from builds where station_id in (select station from places)) x
join places p on p.station = x.station_id and p.n = x.n
where b.id = x.id and p.n > 1;

update shop_stations s set name = s.name || ' 1', count = 1,
    width_mm = case when s.width_mm >= s.depth_mm then greatest(300, s.width_mm / p.count) else s.width_mm end,
    depth_mm = case when s.width_mm >= s.depth_mm then s.depth_mm else greatest(300, s.depth_mm / p.count) end
from places p where p.station = s.id and p.n = 1;

update sequence_operations set terms = jsonb_set(terms, '{body}', '"onBody"')
where station in ('Bay', 'Prep', 'Booth', 'Blast', 'Jig', 'Lift') and coalesce(terms ->> 'body', 'beside') = 'beside';
