/** The window. */
module holotome.app {
  requires holotome.core;
  requires holotome.view;
  requires holotome.demo;
  requires java.desktop;
  requires javafx.controls;
  requires java.logging;

  exports holotome.app to
      javafx.graphics;
}
