/** Pictures of meshes by computation alone. */
module holotome.view {
  requires transitive holotome.core;
  requires java.desktop;
  requires org.joml;

  exports holotome.view;
  exports holotome.view.words;
  exports holotome.view.camera;
  exports holotome.view.scene;
  exports holotome.view.buffer;
  exports holotome.view.picking;
}
