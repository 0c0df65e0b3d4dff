/** Meshes, files, computation and the Log; no interface code. */
module holotome.core {
  requires java.desktop;
  requires static jdk.incubator.vector;
  requires com.fasterxml.jackson.databind;
  requires earcut4j;
  requires org.lwjgl;
  requires org.lwjgl.tinyexr;

  exports holotome.core.words;
  exports holotome.core.task;
  exports holotome.core.memory;
  exports holotome.core.array;
  exports holotome.core.geometry;
  exports holotome.core.unit;
  exports holotome.core.image;
  exports holotome.core.attribute;
  exports holotome.core.mesh;
  exports holotome.core.frame;
  exports holotome.core.topology;
  exports holotome.core.cut;
  exports holotome.core.triangulation;
  exports holotome.core.tangent;
  exports holotome.core.polygon;
  exports holotome.core.spatial;
  exports holotome.core.contour;
  exports holotome.core.proxy;
  exports holotome.core.quad;
  exports holotome.core.solve;
  exports holotome.core.io;
  exports holotome.core.map;
  exports holotome.core.part;
  exports holotome.core.step;
  exports holotome.core.swatch;
  exports holotome.core.touch;
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
