PRAGMA user_version = 6;
PRAGMA application_id = 1165390962;
BEGIN TRANSACTION;
CREATE TABLE "antenna" (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  kind TEXT NOT NULL,
  name TEXT NOT NULL,
  target TEXT,
  diameter_m REAL NOT NULL,
  efficiency REAL NOT NULL,
  offset_deg REAL NOT NULL,
  datum TEXT NOT NULL,
  constant_deg REAL NOT NULL,
  skew_view TEXT NOT NULL,
  skew_zero TEXT NOT NULL,
  upside_down INTEGER NOT NULL,
  scale_zero_deg REAL NOT NULL,
  skew_turns TEXT NOT NULL,
  level_reads TEXT NOT NULL,
  mounting TEXT NOT NULL,
  coarse_first TEXT NOT NULL,
  focal_ratio REAL NOT NULL,
  reflector_height_mm REAL,
  reflector_width_mm REAL,
  reflector_depth_mm REAL,
  lnb_width_mm REAL NOT NULL,
  lean_deg REAL NOT NULL,
  lean_bearing_deg REAL NOT NULL,
  compass_error_deg REAL NOT NULL,
  scale_error_deg REAL NOT NULL,
  deg_per_turn REAL,
  play_turns REAL NOT NULL,
  motor_limit_deg REAL NOT NULL,
  motor_bend_deg REAL NOT NULL,
  motor_zero_deg REAL NOT NULL,
  availability_pct REAL NOT NULL,
  two_way INTEGER NOT NULL,
  transmit_w REAL NOT NULL,
  transmit_mhz REAL NOT NULL,
  gain_dbi REAL NOT NULL,
  gain_table TEXT NOT NULL,
  model TEXT NOT NULL,
  low_mhz REAL NOT NULL,
  high_mhz REAL NOT NULL,
  beamwidth_deg REAL,
  front_back_db REAL NOT NULL,
  length_m REAL NOT NULL,
  heading_deg REAL,
  elements TEXT NOT NULL,
  rotator INTEGER NOT NULL,
  standing TEXT NOT NULL,
  covering TEXT NOT NULL,
  entry_loss_db REAL,
  above_ground_m REAL,
  hold TEXT,
  on_mast_m REAL NOT NULL,
  wind_area_m2 REAL NOT NULL,
  area_from TEXT NOT NULL,
  surface TEXT NOT NULL,
  ground_k REAL,
  compass_off_deg REAL NOT NULL,
  zero_before_deg REAL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, target) REFERENCES target (job, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (job, hold) REFERENCES hold (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
INSERT INTO "antenna" VALUES('fern-cottage','a1',1024,'array','UHF array','t1',0.8,0.65,25.0,'face',0.0,'behind','V',0,0.0,'lnb','0','fixed','elevation',0.6,NULL,NULL,NULL,60.0,0.0,0.0,3.0,0.5,NULL,0.0,65.0,30.0,0.0,99.7,0,2.0,14250.0,11.0,'[]','',30.0,3000.0,NULL,20.0,1.0,NULL,'auto',0,'outdoors','',NULL,NULL,NULL,1.6,0.08,'size','solid',NULL,0.0,NULL);
INSERT INTO "antenna" VALUES('fern-cottage','a2',2048,'dish','Dish 0.75 m','t2',0.75,0.65,22.5,'scale',0.0,'front','V',0,0.0,'lnb','0','fixed','elevation',0.6,NULL,NULL,NULL,60.0,0.0,0.0,3.0,0.5,NULL,0.0,65.0,30.0,0.0,99.7,0,2.0,14250.0,12.0,'[]','',30.0,3000.0,NULL,20.0,1.0,NULL,'auto',0,'outdoors','',NULL,NULL,NULL,0.4,0.1,'size','solid',NULL,0.0,NULL);
INSERT INTO "antenna" VALUES('harrow-farm','a1',1024,'array','UHF row, 1.4 m','t1',0.8,0.65,25.0,'face',0.0,'behind','V',0,0.0,'lnb','0','fixed','elevation',0.6,NULL,NULL,NULL,60.0,0.0,0.0,3.0,0.5,NULL,0.0,65.0,30.0,0.0,99.7,0,2.0,14250.0,14.2,'[[470.0, 11.0], [600.0, 13.0], [700.0, 14.2]]','row-13',470.0,700.0,36.0,24.0,1.4,NULL,'auto',0,'outdoors','',NULL,NULL,NULL,1.6,0.09,'size','solid',NULL,0.0,NULL);
CREATE TABLE beam (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  target TEXT NOT NULL,
  name TEXT NOT NULL,
  code TEXT NOT NULL,
  polarisation TEXT NOT NULL,
  least_esn0_db REAL,
  boundary TEXT NOT NULL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, target) REFERENCES target (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
CREATE TABLE carrier (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  target TEXT NOT NULL,
  name TEXT NOT NULL,
  frequency_mhz REAL NOT NULL,
  bandwidth_mhz REAL NOT NULL,
  polarisation TEXT NOT NULL,
  power REAL NOT NULL,
  modulation TEXT NOT NULL, label TEXT NOT NULL DEFAULT '', services TEXT NOT NULL DEFAULT '[]', network TEXT NOT NULL DEFAULT '', guard_us REAL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, target) REFERENCES target (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
INSERT INTO "carrier" VALUES('fern-cottage','c1',1024,'t1','Renamed once',529.5,6.66,'V',10.0,'DVB-T 64QAM 3/4','','[]','',NULL);
INSERT INTO "carrier" VALUES('fern-cottage','c2',2048,'t1','mux B',564.5,6.66,'V',10.0,'DVB-T 64QAM 3/4','','[]','',NULL);
INSERT INTO "carrier" VALUES('fern-cottage','c3',3072,'t1','mux C',599.5,6.66,'V',10.0,'DVB-T 64QAM 3/4','','[]','',NULL);
INSERT INTO "carrier" VALUES('fern-cottage','c4',4096,'t2','H 12.407',12407.0,30.0,'H',51.0,'DVB-S2 8PSK 3/5','','[]','',NULL);
INSERT INTO "carrier" VALUES('fern-cottage','c5',5120,'t2','V 12.576',12576.0,30.0,'V',51.0,'DVB-S2 8PSK 3/5','','[]','',NULL);
INSERT INTO "carrier" VALUES('harrow-farm','c1',1024,'t1','mux S1',490.0,7.61,'H',0.5,'DVB-T 64QAM 2/3','','["Harbour One", "Harbour Two", "Peat Radio"]','',NULL);
INSERT INTO "carrier" VALUES('harrow-farm','c2',2048,'t1','mux S2',546.0,7.61,'H',0.5,'DVB-T 64QAM 2/3','','["Vale News", "Lantern", "Shieling"]','',NULL);
INSERT INTO "carrier" VALUES('harrow-farm','c3',3072,'t1','mux S3',642.0,7.61,'H',0.5,'DVB-T 64QAM 2/3','','["Old Films", "Kelp", "Drove Road"]','',NULL);
INSERT INTO "carrier" VALUES('harrow-farm','c4',4096,'t2','mux B1',506.0,7.61,'H',2.0,'DVB-T 64QAM 2/3','','["Harbour One west", "West Sports"]','',NULL);
INSERT INTO "carrier" VALUES('harrow-farm','c5',5120,'t2','mux B2',578.0,7.61,'H',2.0,'DVB-T 64QAM 2/3','','["Glen Talk", "Bothy"]','',NULL);
INSERT INTO "carrier" VALUES('harrow-farm','c6',6144,'t2','mux B3',626.0,7.61,'H',2.0,'DVB-T 64QAM 2/3','','["Cairn Cinema", "Weather West"]','',NULL);
INSERT INTO "carrier" VALUES('harrow-farm','c7',7168,'t3','far mux',546.0,7.61,'V',0.1,'DVB-T 64QAM 2/3','','[]','',NULL);
CREATE TABLE "change" (
  job    TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  n      INTEGER NOT NULL,
  at     TEXT NOT NULL,
  device TEXT NOT NULL,           -- who asked; '' for one that does not say
  label  TEXT NOT NULL,
  asked  TEXT,                    -- the change as it was asked for; older forms kept none
  diff   TEXT NOT NULL,           -- [[table, id, cells before, cells after], ...]
  undone INTEGER NOT NULL,        -- taken back, and can be carried out again
  revision INTEGER NOT NULL,      -- that it made, or that taking it back or forth made
  PRIMARY KEY (job, n)
) STRICT;
INSERT INTO "change" VALUES('fern-cottage',1,'2026-11-27T03:43:17.681+00:00','','change site',NULL,'[["site","",{"mount_height_m":5.2},{"mount_height_m":7.5}]]',0,1);
INSERT INTO "change" VALUES('fern-cottage',2,'2026-11-27T03:43:17.682+00:00','','change carrier',NULL,'[["carrier","c1",{"name":"mux A"},{"name":"Renamed once"}]]',0,2);
INSERT INTO "change" VALUES('fern-cottage',3,'2026-11-27T03:43:17.683+00:00','','remove outlet',NULL,'[["outlet","o3",{"id":"o3","name":"Living room, dish","floor":"Ground floor","terrestrial":false,"satellite":true,"seq":3072},null],["part","p10",{"id":"p10","type":"plate","name":"","antenna":null,"outlet":"o3","target":null,"setting_db":null,"seq":10240},null],["link","l8",{"id":"l8","from_part":"p9","from_port":0,"to_part":"p10","to_port":0,"cable":"rg6","length_m":9.0,"note":"","seq":8192},null]]',0,3);
INSERT INTO "change" VALUES('fern-cottage',4,'2026-11-27T03:43:17.683+00:00','','change target',NULL,'[["target","t1",{"name":"Currawong Knoll"},{"name":"Old name of a target"}]]',1,5);
CREATE TABLE company (
  job TEXT PRIMARY KEY REFERENCES job ON DELETE CASCADE,
  plan TEXT NOT NULL,
  low_mhz REAL NOT NULL,
  high_mhz REAL NOT NULL,
  low_dbuv REAL,
  high_dbuv REAL,
  return_noise_dbuv REAL,
  watched_s REAL,
  unplugged INTEGER NOT NULL,
  lines_known INTEGER NOT NULL,
  filter_fitted INTEGER NOT NULL,
  note TEXT NOT NULL
) STRICT;
INSERT INTO "company" VALUES('fern-cottage','none',114.0,802.0,NULL,NULL,NULL,NULL,0,0,0,'');
INSERT INTO "company" VALUES('harrow-farm','none',114.0,802.0,NULL,NULL,NULL,NULL,0,0,0,'');
CREATE TABLE conductor (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  role TEXT NOT NULL,
  material TEXT NOT NULL,
  size_mm2 REAL NOT NULL,
  length_m REAL NOT NULL,
  connected INTEGER NOT NULL,
  PRIMARY KEY (job, id)
) STRICT;
INSERT INTO "conductor" VALUES('fern-cottage','e1',1024,'mast','copper',16.0,5.0,1);
INSERT INTO "conductor" VALUES('fern-cottage','e2',2048,'shields','copper',4.0,4.0,1);
INSERT INTO "conductor" VALUES('fern-cottage','e3',3072,'devices','copper',4.0,1.5,1);
INSERT INTO "conductor" VALUES('harrow-farm','e1',1024,'mast','copper',16.0,9.0,1);
INSERT INTO "conductor" VALUES('harrow-farm','e2',2048,'shields','copper',4.0,5.0,1);
CREATE TABLE earth (
  job TEXT PRIMARY KEY REFERENCES job ON DELETE CASCADE,
  indoors INTEGER NOT NULL,
  below_roof_edge_m REAL NOT NULL,
  from_wall_m REAL NOT NULL,
  overhead_lines TEXT NOT NULL,
  line_distance_m REAL
) STRICT;
INSERT INTO "earth" VALUES('fern-cottage',0,0.0,0.4,'none',NULL);
INSERT INTO "earth" VALUES('harrow-farm',0,0.0,0.2,'none',NULL);
CREATE TABLE feed (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  antenna TEXT NOT NULL,
  target TEXT NOT NULL,
  placed_mm REAL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, antenna) REFERENCES antenna (job, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (job, target) REFERENCES target (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
CREATE TABLE handover (
  job TEXT PRIMARY KEY REFERENCES job ON DELETE CASCADE,
  customer TEXT NOT NULL,
  installer TEXT NOT NULL,
  remarks TEXT NOT NULL,
  handed_over INTEGER NOT NULL
) STRICT;
INSERT INTO "handover" VALUES('fern-cottage','The family','A. Mender','',0);
INSERT INTO "handover" VALUES('harrow-farm','The farmer','A. Mender','',0);
CREATE TABLE heard (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  hold TEXT NOT NULL,
  carrier TEXT NOT NULL,
  level_dbuv REAL,
  cn_db REAL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, hold) REFERENCES hold (job, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (job, carrier) REFERENCES carrier (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
INSERT INTO "heard" VALUES('harrow-farm','i1',1024,'d1','c1',62.4,31.0);
INSERT INTO "heard" VALUES('harrow-farm','i2',2048,'d1','c2',60.1,30.2);
INSERT INTO "heard" VALUES('harrow-farm','i3',3072,'d1','c3',58.8,29.5);
INSERT INTO "heard" VALUES('harrow-farm','i4',4096,'d1','c4',24.5,14.0);
INSERT INTO "heard" VALUES('harrow-farm','i5',5120,'d1','c5',23.9,13.6);
INSERT INTO "heard" VALUES('harrow-farm','i6',6144,'d1','c6',22.8,12.1);
INSERT INTO "heard" VALUES('harrow-farm','i7',7168,'d2','c1',47.9,29.4);
INSERT INTO "heard" VALUES('harrow-farm','i8',8192,'d2','c2',47.1,28.8);
INSERT INTO "heard" VALUES('harrow-farm','i9',9216,'d2','c3',45.9,27.1);
INSERT INTO "heard" VALUES('harrow-farm','i10',10240,'d2','c4',31.2,22.6);
INSERT INTO "heard" VALUES('harrow-farm','i11',11264,'d2','c5',30.4,21.9);
INSERT INTO "heard" VALUES('harrow-farm','i12',12288,'d2','c6',29.6,21.0);
INSERT INTO "heard" VALUES('harrow-farm','i13',13312,'d3','c1',63.1,19.6);
INSERT INTO "heard" VALUES('harrow-farm','i14',14336,'d3','c2',61.9,18.8);
INSERT INTO "heard" VALUES('harrow-farm','i15',15360,'d3','c3',60.7,18.1);
INSERT INTO "heard" VALUES('harrow-farm','i16',16384,'d3','c4',15.0,8.2);
INSERT INTO "heard" VALUES('harrow-farm','i17',17408,'d3','c5',14.2,NULL);
CREATE TABLE hold (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  antenna TEXT NOT NULL,
  place TEXT NOT NULL,
  above_ground_m REAL,
  heading_deg REAL,
  tilt_deg REAL NOT NULL,
  note TEXT NOT NULL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, antenna) REFERENCES antenna (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
INSERT INTO "hold" VALUES('harrow-farm','d1',1024,'a1','Chimney, north side',8.5,50.0,0.0,'');
INSERT INTO "hold" VALUES('harrow-farm','d2',2048,'a1','West gable',7.2,330.0,0.0,'Between both, by hand on the ladder.');
INSERT INTO "hold" VALUES('harrow-farm','d3',3072,'a1','Over the porch',5.0,45.0,0.0,'Tin roof of the barn opposite.');
CREATE TABLE job (
  id        TEXT PRIMARY KEY,
  name      TEXT NOT NULL,
  place     TEXT NOT NULL,
  profile   TEXT NOT NULL,
  date      TEXT NOT NULL,
  revision  INTEGER NOT NULL DEFAULT 0,
  kept_at   TEXT NOT NULL
, state TEXT NOT NULL DEFAULT '', removed_at TEXT) STRICT;
INSERT INTO "job" VALUES('fern-cottage','Fern Cottage','Mallow Bend','australia-new-zealand','2026-03-25',5,'2026-11-27T03:43:17.684+00:00','ded3e2dcf5fcbf01',NULL);
INSERT INTO "job" VALUES('harrow-farm','Harrow Farm','Vale of Orrick','europe','2026-05-06',0,'2026-11-27T03:43:17.679+00:00','571e7c2b454053a2',NULL);
CREATE TABLE link (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  from_part TEXT NOT NULL,
  from_port INTEGER NOT NULL,
  to_part TEXT NOT NULL,
  to_port INTEGER NOT NULL,
  cable TEXT NOT NULL,
  length_m REAL NOT NULL,
  note TEXT NOT NULL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, from_part) REFERENCES part (job, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (job, to_part) REFERENCES part (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
INSERT INTO "link" VALUES('fern-cottage','l1',1024,'p1',0,'p2',0,'rg6',0.7,'');
INSERT INTO "link" VALUES('fern-cottage','l2',2048,'p2',0,'p3',0,'rg6',9.0,'');
INSERT INTO "link" VALUES('fern-cottage','l3',3072,'p3',0,'p4',0,'rg6',2.0,'');
INSERT INTO "link" VALUES('fern-cottage','l4',4096,'p4',0,'p5',0,'rg6',0.5,'');
INSERT INTO "link" VALUES('fern-cottage','l5',5120,'p5',0,'p6',0,'rg6',8.0,'');
INSERT INTO "link" VALUES('fern-cottage','l6',6144,'p5',1,'p7',0,'rg6',14.0,'');
INSERT INTO "link" VALUES('fern-cottage','l7',7168,'p8',0,'p9',0,'rg6',8.0,'');
INSERT INTO "link" VALUES('harrow-farm','l1',1024,'p1',0,'p2',0,'rg6',11.0,'');
INSERT INTO "link" VALUES('harrow-farm','l2',2048,'p2',0,'p3',0,'rg6',4.0,'');
INSERT INTO "link" VALUES('harrow-farm','l3',3072,'p3',0,'p4',0,'rg6',9.0,'');
INSERT INTO "link" VALUES('harrow-farm','l4',4096,'p3',1,'p5',0,'rg6',14.0,'');
INSERT INTO "link" VALUES('harrow-farm','l5',5120,'p3',2,'p6',0,'rg6',55.0,'');
INSERT INTO "link" VALUES('harrow-farm','l6',6144,'p3',3,'p7',0,'rg6',0.0,'');
CREATE TABLE "lock" (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  antenna TEXT NOT NULL,
  frequency_mhz REAL NOT NULL,
  polarisation TEXT NOT NULL,
  symbol_mbd REAL NOT NULL,
  locked INTEGER NOT NULL,
  identity TEXT NOT NULL,
  target TEXT,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, antenna) REFERENCES antenna (job, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (job, target) REFERENCES target (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
CREATE TABLE mark (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  step TEXT NOT NULL,
  done_at TEXT NOT NULL,
  danger_read INTEGER NOT NULL,
  value REAL,
  note TEXT NOT NULL,
  PRIMARY KEY (job, id)
) STRICT;
CREATE TABLE mast (
  job TEXT PRIMARY KEY REFERENCES job ON DELETE CASCADE,
  length_m REAL NOT NULL,
  held_m REAL NOT NULL,
  outer_mm REAL NOT NULL,
  wall_mm REAL NOT NULL,
  yield_mpa REAL NOT NULL,
  moment_limit_nm REAL,
  wind_ms REAL,
  fixing TEXT NOT NULL
, wind_region TEXT NOT NULL DEFAULT '') STRICT;
INSERT INTO "mast" VALUES('fern-cottage',2.4,0.6,48.0,3.0,235.0,NULL,NULL,'wall','a');
INSERT INTO "mast" VALUES('harrow-farm',3.5,0.8,50.0,3.0,235.0,NULL,NULL,'chimney','');
CREATE TABLE moved (
  job      TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  revision INTEGER NOT NULL,
  cells    TEXT NOT NULL,        -- [[table, id, [columns]], ...]
  PRIMARY KEY (job, revision)
) STRICT;
INSERT INTO "moved" VALUES('fern-cottage',1,'[["site","",["mount_height_m"]]]');
INSERT INTO "moved" VALUES('fern-cottage',2,'[["carrier","c1",["name"]]]');
INSERT INTO "moved" VALUES('fern-cottage',3,'[["outlet","o3",["*"]],["part","p10",["*"]],["link","l8",["*"]]]');
INSERT INTO "moved" VALUES('fern-cottage',4,'[["target","t1",["name"]]]');
INSERT INTO "moved" VALUES('fern-cottage',5,'[["target","t1",["name"]]]');
CREATE TABLE obstruction (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  name TEXT NOT NULL,
  outline TEXT NOT NULL,
  from_deg REAL NOT NULL,
  to_deg REAL NOT NULL,
  top_deg REAL,
  distance_m REAL,
  above_m REAL,
  seen_from_m REAL NOT NULL, nature TEXT NOT NULL DEFAULT 'fixed', growth_m_year REAL NOT NULL DEFAULT 0.0,
  PRIMARY KEY (job, id)
) STRICT;
INSERT INTO "obstruction" VALUES('fern-cottage','b1',1024,'Gum trees','crowns',60.0,95.0,18.0,45.0,NULL,5.2,'fixed',0.0);
INSERT INTO "obstruction" VALUES('harrow-farm','b1',1024,'Own barn','gable',240.0,275.0,NULL,30.0,-1.5,8.5,'own',0.0);
INSERT INTO "obstruction" VALUES('harrow-farm','b2',2048,'Spruces','crowns',20.0,42.0,NULL,60.0,3.0,8.5,'evergreen',0.5);
CREATE TABLE outlet (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  name TEXT NOT NULL,
  floor TEXT NOT NULL,
  terrestrial INTEGER NOT NULL,
  satellite INTEGER NOT NULL,
  PRIMARY KEY (job, id)
) STRICT;
INSERT INTO "outlet" VALUES('fern-cottage','o1',1024,'Living room','Ground floor',1,0);
INSERT INTO "outlet" VALUES('fern-cottage','o2',2048,'Bedroom','Ground floor',1,0);
INSERT INTO "outlet" VALUES('harrow-farm','o1',1024,'Kitchen','Ground floor',1,0);
INSERT INTO "outlet" VALUES('harrow-farm','o2',2048,'Parlour','Ground floor',1,0);
INSERT INTO "outlet" VALUES('harrow-farm','o3',3072,'Bothy','Yard',1,0);
CREATE TABLE "part" (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  type TEXT NOT NULL,
  name TEXT NOT NULL,
  antenna TEXT,
  outlet TEXT,
  target TEXT,
  setting_db REAL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, antenna) REFERENCES antenna (job, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (job, outlet) REFERENCES outlet (job, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (job, target) REFERENCES target (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
INSERT INTO "part" VALUES('fern-cottage','p1',1024,'antenna','','a1',NULL,NULL,NULL);
INSERT INTO "part" VALUES('fern-cottage','p2',2048,'preamp-13','Preamplifier',NULL,NULL,NULL,NULL);
INSERT INTO "part" VALUES('fern-cottage','p3',3072,'block-1','Grounding block',NULL,NULL,NULL,NULL);
INSERT INTO "part" VALUES('fern-cottage','p4',4096,'inserter-12','Power inserter',NULL,NULL,NULL,NULL);
INSERT INTO "part" VALUES('fern-cottage','p5',5120,'splitter-2','Splitter',NULL,NULL,NULL,NULL);
INSERT INTO "part" VALUES('fern-cottage','p6',6144,'plate','',NULL,'o1',NULL,NULL);
INSERT INTO "part" VALUES('fern-cottage','p7',7168,'plate','',NULL,'o2',NULL,NULL);
INSERT INTO "part" VALUES('fern-cottage','p8',8192,'lnb-single-1075','LNB','a2',NULL,NULL,NULL);
INSERT INTO "part" VALUES('fern-cottage','p9',9216,'block-1','Grounding block, dish',NULL,NULL,NULL,NULL);
INSERT INTO "part" VALUES('harrow-farm','p1',1024,'antenna','','a1',NULL,NULL,NULL);
INSERT INTO "part" VALUES('harrow-farm','p2',2048,'block-1','Grounding block',NULL,NULL,NULL,NULL);
INSERT INTO "part" VALUES('harrow-farm','p3',3072,'splitter-4','Splitter',NULL,NULL,NULL,NULL);
INSERT INTO "part" VALUES('harrow-farm','p4',4096,'plate','',NULL,'o1',NULL,NULL);
INSERT INTO "part" VALUES('harrow-farm','p5',5120,'plate','',NULL,'o2',NULL,NULL);
INSERT INTO "part" VALUES('harrow-farm','p6',6144,'plate','',NULL,'o3',NULL,NULL);
INSERT INTO "part" VALUES('harrow-farm','p7',7168,'terminator','',NULL,NULL,NULL,NULL);
CREATE TABLE preset (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  antenna TEXT NOT NULL,
  name TEXT NOT NULL,
  tilt_deg REAL NOT NULL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, antenna) REFERENCES antenna (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
CREATE TABLE reading (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  part TEXT NOT NULL,
  carrier TEXT NOT NULL,
  level_dbuv REAL,
  cn_db REAL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, part) REFERENCES part (job, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (job, carrier) REFERENCES carrier (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
CREATE TABLE relief (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  target TEXT NOT NULL,
  source TEXT NOT NULL,
  from_latitude_deg REAL NOT NULL,
  from_longitude_deg REAL NOT NULL,
  to_latitude_deg REAL NOT NULL,
  to_longitude_deg REAL NOT NULL,
  length_km REAL NOT NULL,
  heights_m TEXT NOT NULL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, target) REFERENCES target (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
INSERT INTO "relief" VALUES('harrow-farm','g1',1024,'t1','Vale of Orrick, demo tile',57.21,-4.56,57.348,-4.255,2.39712054644603469446e+01,'[69.2, 69.5, 69.7, 69.9, 69.9, 69.9, 69.9, 69.7, 69.5, 69.1, 68.8, 68.4, 67.9, 67.4, 66.9, 66.3, 65.8, 65.3, 64.8, 64.4, 64.0, 63.6, 63.3, 63.1, 63.0, 63.0, 63.0, 63.1, 63.3, 63.6, 63.9, 64.3, 64.7, 65.2, 65.7, 66.2, 66.7, 67.3, 67.7, 68.2, 68.6, 69.0, 69.3, 69.5, 69.7, 69.8, 69.8, 69.7, 69.5, 69.3, 69.0, 68.6, 68.2, 67.7, 67.2, 66.6, 66.1, 65.5, 65.0, 64.5, 64.0, 63.6, 63.2, 62.9, 62.7, 62.5, 62.5, 62.5, 62.5, 62.7, 63.0, 63.3, 63.7, 64.1, 64.6, 65.1, 65.6, 66.2, 66.8, 67.3, 67.9, 68.4, 68.8, 69.3, 69.6, 69.9, 70.1, 70.3, 70.3, 70.3, 70.2, 70.1, 69.8, 69.5, 69.1, 68.7, 68.2, 67.7, 67.2, 66.6, 66.1, 65.6, 65.1, 64.6, 64.2, 63.8, 63.5, 63.3, 63.1, 63.1, 63.1, 63.2, 63.3, 63.6, 63.9, 64.2, 64.6, 65.0, 65.5, 65.9, 66.4, 66.8, 67.2, 67.6, 67.9, 68.2, 68.3, 68.5, 68.5, 68.5, 68.3, 68.1, 67.9, 67.5, 67.2, 66.7, 66.2, 65.7, 65.2, 64.7, 64.2, 63.7, 63.2, 62.8, 62.4, 62.1, 61.9, 61.7, 61.6, 61.7, 61.8, 61.9, 62.2, 62.6, 63.0, 63.5, 64.1, 64.7, 65.3, 66.0, 66.7, 67.4, 68.1, 68.8, 69.5, 70.2, 70.8, 71.5, 72.0, 72.6, 73.1, 73.6, 74.1, 74.6, 75.1, 75.6, 76.1, 76.7, 77.4, 78.1, 79.0, 79.9, 81.0, 82.3, 83.8, 85.5, 87.4, 89.5, 91.9, 94.5, 97.4, 100.6, 104.1, 107.8, 111.9, 116.2, 120.8, 125.7, 130.9, 136.3, 142.0, 147.9, 154.0, 160.3, 166.8, 173.5, 180.3, 187.3, 194.3, 201.5, 208.7, 215.9, 223.2, 230.5, 237.8, 245.0, 252.2, 259.4, 266.5, 273.4, 280.3, 287.1, 293.7, 300.1, 306.4, 312.5, 318.3, 323.9, 329.3, 334.4, 339.2, 343.7, 347.9, 351.7, 355.2, 358.2, 360.9, 363.1, 364.9, 366.2, 367.0]');
INSERT INTO "relief" VALUES('harrow-farm','g2',2048,'t2','Vale of Orrick, demo tile',57.21,-4.56,57.175,-4.92,2.21111251716142653833e+01,'[69.2, 68.8, 68.4, 68.0, 67.6, 67.1, 66.6, 66.0, 65.5, 64.9, 64.4, 63.8, 63.2, 62.7, 62.2, 61.7, 61.2, 60.7, 60.3, 60.0, 59.6, 59.4, 59.1, 58.9, 58.8, 58.7, 58.6, 58.6, 58.7, 58.8, 59.0, 59.1, 59.4, 59.7, 60.0, 60.4, 60.8, 61.3, 61.9, 62.5, 63.3, 64.1, 65.1, 66.2, 67.6, 69.1, 71.0, 73.2, 75.7, 78.7, 82.2, 86.3, 91.0, 96.3, 102.3, 109.1, 116.6, 124.9, 133.9, 143.6, 153.8, 164.6, 175.7, 187.0, 198.3, 209.5, 220.3, 230.4, 239.8, 248.1, 255.2, 260.9, 265.0, 267.5, 268.3, 267.4, 264.8, 260.6, 254.9, 247.8, 239.5, 230.2, 220.0, 209.4, 198.4, 187.2, 176.1, 165.2, 154.8, 144.8, 135.5, 126.9, 119.0, 111.9, 105.5, 99.9, 95.0, 90.8, 87.1, 84.1, 81.5, 79.3, 77.5, 76.0, 74.8, 73.7, 72.8, 72.1, 71.4, 70.8, 70.2, 69.6, 69.1, 68.6, 68.0, 67.5, 66.9, 66.3, 65.8, 65.2, 64.6, 64.0, 63.4, 62.9, 62.3, 61.8, 61.3, 60.9, 60.4, 60.1, 59.7, 59.4, 59.2, 59.0, 58.9, 58.8, 58.8, 58.8, 58.9, 59.1, 59.3, 59.5, 59.9, 60.2, 60.6, 61.1, 61.6, 62.1, 62.7, 63.3, 63.9, 64.5, 65.1, 65.7, 66.4, 67.0, 67.7, 68.3, 69.0, 69.6, 70.2, 70.9, 71.5, 72.1, 72.8, 73.5, 74.2, 74.9, 75.7, 76.5, 77.4, 78.4, 79.5, 80.8, 82.1, 83.7, 85.4, 87.3, 89.5, 91.9, 94.6, 97.5, 100.8, 104.5, 108.5, 112.9, 117.7, 123.0, 128.6, 134.8, 141.3, 148.3, 155.8, 163.7, 172.1, 180.9, 190.1, 199.6, 209.5, 219.7, 230.2, 240.8, 251.7, 262.6, 273.6, 284.5, 295.3, 306.0, 316.4, 326.5, 336.2, 345.4, 354.1, 362.2, 369.6, 376.3, 382.1, 387.1, 391.3, 394.5, 396.7, 398.0, 398.3]');
INSERT INTO "relief" VALUES('harrow-farm','g3',3072,'t3','Vale of Orrick, demo tile',57.21,-4.56,57.085,-4.3,2.10110706060016063636e+01,'[69.2, 69.2, 69.2, 69.1, 68.9, 68.6, 68.3, 67.9, 67.4, 66.8, 66.2, 65.6, 64.9, 64.3, 63.6, 63.0, 62.3, 61.7, 61.2, 60.7, 60.2, 59.9, 59.6, 59.4, 59.2, 59.2, 59.2, 59.3, 59.5, 59.7, 60.0, 60.4, 60.7, 61.1, 61.5, 61.9, 62.2, 62.6, 62.9, 63.1, 63.3, 63.4, 63.5, 63.4, 63.3, 63.1, 62.8, 62.5, 62.1, 61.6, 61.0, 60.4, 59.8, 59.2, 58.5, 57.8, 57.2, 56.5, 55.9, 55.4, 54.9, 54.5, 54.1, 53.9, 53.7, 53.6, 53.6, 53.7, 53.9, 54.1, 54.4, 54.8, 55.2, 55.7, 56.2, 56.8, 57.3, 57.8, 58.4, 58.9, 59.4, 59.9, 60.3, 60.6, 60.9, 61.2, 61.4, 61.6, 61.7, 61.7, 61.8, 61.8, 61.8, 61.8, 61.8, 61.9, 62.0, 62.2, 62.4, 62.7, 63.1, 63.6, 64.2, 65.0, 65.9, 66.9, 68.1, 69.3, 70.8, 72.3, 74.0, 75.8, 77.7, 79.7, 81.8, 84.0, 86.2, 88.5, 90.7, 93.0, 95.3, 97.5, 99.8, 101.9, 104.0, 106.1, 108.0, 109.9, 111.7, 113.4, 115.0, 116.4, 117.8, 119.1, 120.3, 121.5, 122.5, 123.5, 124.4, 125.2, 126.0, 126.7, 127.4, 128.1, 128.7, 129.3, 129.8, 130.3, 130.8, 131.3, 131.7, 132.0, 132.3, 132.5, 132.7, 132.7, 132.7, 132.6, 132.3, 132.0, 131.5, 130.8, 130.0, 129.1, 128.0, 126.7, 125.3, 123.8, 122.1, 120.2, 118.2, 116.1, 113.9, 111.5, 109.1, 106.7, 104.1, 101.6, 99.0, 96.5, 93.9, 91.4, 89.0, 86.6, 84.3, 82.1, 80.0, 78.1, 76.2, 74.5, 72.9, 71.4, 70.1, 68.8, 67.7, 66.7, 65.8, 64.9, 64.2, 63.4, 62.8, 62.1, 61.5, 60.9, 60.3, 59.7, 59.0, 58.4, 57.7, 56.9, 56.2, 55.4]');
CREATE TABLE rig (
  job TEXT PRIMARY KEY REFERENCES job ON DELETE CASCADE,
  kind TEXT NOT NULL,
  stop TEXT,
  base_level_deg REAL,
  gap_mm REAL,
  nearest_mm REAL,
  highest_mm REAL,
  cable_m REAL,
  sealed INTEGER NOT NULL,
  stowed INTEGER NOT NULL,
  FOREIGN KEY (job, stop) REFERENCES stop (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
INSERT INTO "rig" VALUES('fern-cottage','none',NULL,NULL,NULL,NULL,NULL,NULL,0,0);
INSERT INTO "rig" VALUES('harrow-farm','none',NULL,NULL,NULL,NULL,NULL,NULL,0,0);
CREATE TABLE "sample" (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  antenna TEXT NOT NULL,
  target TEXT,
  axis TEXT NOT NULL,
  position REAL NOT NULL,
  unit TEXT NOT NULL,
  reading REAL NOT NULL,
  scale TEXT NOT NULL,
  role TEXT NOT NULL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, antenna) REFERENCES antenna (job, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (job, target) REFERENCES target (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
CREATE TABLE scan (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  outlet TEXT NOT NULL,
  at TEXT NOT NULL,
  tuner TEXT NOT NULL,
  found TEXT NOT NULL,
  note TEXT NOT NULL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, outlet) REFERENCES outlet (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
INSERT INTO "scan" VALUES('harrow-farm','n1',1024,'o1','2026-05-06 10:40','antenna','["Harbour One", "Harbour Two", "Peat Radio", "Vale News", "Lantern", "Shieling", "Old Films", "Kelp", "Drove Road"]','first scan, antenna at Staunmoor');
CREATE TABLE sent (
  job      TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  key      TEXT NOT NULL,         -- of the request that was carried out
  at       TEXT NOT NULL,
  PRIMARY KEY (job, key)
) STRICT;
CREATE TABLE site (
  job TEXT PRIMARY KEY REFERENCES job ON DELETE CASCADE,
  position_text TEXT NOT NULL,
  latitude_deg REAL,
  longitude_deg REAL,
  height_m REAL NOT NULL,
  mount_height_m REAL NOT NULL,
  keep_clear_deg REAL,
  building_length_m REAL NOT NULL,
  building_width_m REAL NOT NULL,
  building_bearing_deg REAL NOT NULL,
  building_offset_m REAL NOT NULL,
  building_offset_bearing_deg REAL NOT NULL,
  entry_distance_m REAL NOT NULL,
  entry_bearing_deg REAL NOT NULL
, years_ahead INTEGER NOT NULL DEFAULT 5, surroundings TEXT NOT NULL DEFAULT 'open', clutter_db REAL, mobile_m REAL, mobile_bearing_deg REAL, boundary_m REAL, consent TEXT NOT NULL DEFAULT 'unasked', consent_note TEXT NOT NULL DEFAULT '', position_good_m REAL) STRICT;
INSERT INTO "site" VALUES('fern-cottage','37°14''06"S 146°39''36"E',-37.235,146.66,310.0,7.5,NULL,14.0,8.0,95.0,4.0,185.0,2.0,185.0,5,'open',NULL,NULL,NULL,NULL,'unasked','',NULL);
INSERT INTO "site" VALUES('harrow-farm','57.2100 N 4.5600 W',57.21,-4.56,67.0,8.5,NULL,16.0,7.0,120.0,3.0,210.0,4.0,200.0,5,'open',NULL,1400.0,95.0,NULL,'not_needed','Own farmhouse, outside the heritage area; the planning office was asked.',NULL);
CREATE TABLE spine (
  job     TEXT PRIMARY KEY REFERENCES job ON DELETE CASCADE,
  state   TEXT NOT NULL,         -- the state of the job that it was worked out from
  program TEXT NOT NULL,         -- and the program, its catalogue and its profiles
  line    TEXT NOT NULL
) STRICT;
CREATE TABLE spot (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  name TEXT NOT NULL,
  bearing_deg REAL NOT NULL,
  distance_m REAL NOT NULL,
  mount_height_m REAL NOT NULL,
  cable_m REAL NOT NULL,
  note TEXT NOT NULL, surface TEXT NOT NULL DEFAULT 'unknown', access TEXT NOT NULL DEFAULT 'unknown', wind TEXT NOT NULL DEFAULT 'unknown', in_way TEXT NOT NULL DEFAULT 'nothing', noise TEXT NOT NULL DEFAULT 'none',
  PRIMARY KEY (job, id)
) STRICT;
CREATE TABLE stop (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  name TEXT NOT NULL,
  position_text TEXT NOT NULL,
  latitude_deg REAL NOT NULL,
  longitude_deg REAL NOT NULL,
  height_m REAL NOT NULL,
  PRIMARY KEY (job, id)
) STRICT;
CREATE TABLE target (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  kind TEXT NOT NULL,
  name TEXT NOT NULL,
  orbit_deg_e REAL,
  polarisation_offset_deg REAL NOT NULL,
  circular INTEGER NOT NULL,
  latitude_deg REAL,
  longitude_deg REAL,
  height_m REAL NOT NULL,
  wanted INTEGER NOT NULL DEFAULT 1, inclination_deg REAL NOT NULL DEFAULT 0.0, own_loss_db REAL, pattern TEXT NOT NULL DEFAULT '[]', delay_us REAL NOT NULL DEFAULT 0.0,
  PRIMARY KEY (job, id)
) STRICT;
INSERT INTO "target" VALUES('fern-cottage','t1',1024,'transmitter','Currawong Knoll',NULL,0.0,0,-37.02,146.48,720.0,1,0.0,16.0,'[]',0.0);
INSERT INTO "target" VALUES('fern-cottage','t2',2048,'satellite','Southern Plover',156.0,0.0,0,NULL,NULL,150.0,1,0.0,NULL,'[]',0.0);
INSERT INTO "target" VALUES('harrow-farm','t1',1024,'transmitter','Staunmoor',NULL,0.0,0,57.348,-4.255,512.0,1,0.0,NULL,'[]',0.0);
INSERT INTO "target" VALUES('harrow-farm','t2',2048,'transmitter','Cold Brae',NULL,0.0,0,57.175,-4.92,468.0,1,0.0,NULL,'[[0.0, 8.0], [60.0, 0.0], [120.0, 0.0], [180.0, 6.0], [270.0, 14.0]]',0.0);
INSERT INTO "target" VALUES('harrow-farm','t3',3072,'transmitter','Loch End relay',NULL,0.0,0,57.085,-4.3,260.0,0,0.0,NULL,'[]',0.0);
CREATE TABLE terminal (
  job TEXT PRIMARY KEY REFERENCES job ON DELETE CASCADE,
  installer TEXT NOT NULL,
  licence TEXT NOT NULL,
  licence_seen INTEGER NOT NULL,
  beam TEXT,
  esn0_db REAL,
  isolation_db REAL,
  skew_error_deg REAL NOT NULL,
  duty_pct REAL NOT NULL,
  height_above_m REAL,
  state TEXT NOT NULL,
  note TEXT NOT NULL,
  FOREIGN KEY (job, beam) REFERENCES beam (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
INSERT INTO "terminal" VALUES('fern-cottage','','',0,NULL,NULL,NULL,0.0,100.0,NULL,'new','');
INSERT INTO "terminal" VALUES('harrow-farm','','',0,NULL,NULL,NULL,0.0,100.0,NULL,'new','');
CREATE TABLE tile (
  id TEXT PRIMARY KEY,
  name TEXT NOT NULL,
  path TEXT NOT NULL UNIQUE,
  format TEXT NOT NULL,
  west REAL NOT NULL,
  south REAL NOT NULL,
  east REAL NOT NULL,
  north REAL NOT NULL,
  step_m REAL NOT NULL
) STRICT;
CREATE TABLE transmitter (
  id TEXT PRIMARY KEY,
  name TEXT NOT NULL UNIQUE,
  latitude_deg REAL NOT NULL,
  longitude_deg REAL NOT NULL,
  height_m REAL NOT NULL,
  pattern TEXT NOT NULL,
  carriers TEXT NOT NULL
) STRICT;
CREATE TABLE trial (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE,
  id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  antenna TEXT NOT NULL,
  depth_mm REAL NOT NULL,
  sideways_mm REAL NOT NULL,
  height_mm REAL NOT NULL,
  skew_deg REAL NOT NULL,
  reading REAL NOT NULL,
  channels INTEGER,
  note TEXT NOT NULL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, antenna) REFERENCES antenna (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
CREATE INDEX job_by_time ON job (removed_at, kept_at DESC, id);
COMMIT;
