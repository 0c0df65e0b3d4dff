/** Meshes, files, computation and the Log; no interface code. */
module holotome.core {
  requires java.desktop;
  requires com.fasterxml.jackson.databind;
  requires earcut4j;

  exports holotome.core.task;
  exports holotome.core.mesh;
  exports holotome.core.spatial;
  exports holotome.core.solve;
  exports holotome.core.io;
  exports holotome.core.step;
  exports holotome.core.select;
  exports holotome.core.measure;
  exports holotome.core.section;
  exports holotome.core.intake;
  exports holotome.core.trim;
  exports holotome.core.mend;
  exports holotome.core.datum;
  exports holotome.core.reduce;
  exports holotome.core.unwrap;
  exports holotome.core.bake;
  exports holotome.core.ship;
  exports holotome.core.log;
}
