/** Pictures of meshes by computation alone. */
module holotome.view {
  requires transitive holotome.core;
  requires java.desktop;
  requires org.joml;

  exports holotome.view;
}
