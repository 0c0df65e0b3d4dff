package holotome.core.io;

import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Locale;

/** Reads a mesh from any of the open formats, chosen by what the file is called. */
public final class MeshReader {
  /** A mesh has no more triangles, and no more vertices: three times as many fit an int. */
  public static final int MOST_TRIANGLES = 700_000_000;

  private MeshReader() {}

  /**
   * Reads a file.
   *
   * @throws Failure of kind BAD_INPUT with one line: the file, the place, what is wrong, what to do
   */
  public static Loaded read(Path file, Work work) {
    return read(file, false, work);
  }

  /**
   * Reads a light mesh that was modelled: its faces with more than three corners ({@link
   * holotome.core.attribute.Attribute#FACE}) and hard edges (as normals at the corners) are kept,
   * as far as the format says them.
   *
   * @throws Failure of kind BAD_INPUT with one line: the file, the place, what is wrong, what to do
   */
  public static Loaded modelled(Path file, Work work) {
    return read(file, true, work);
  }

  private static Loaded read(Path file, boolean isModelled, Work work) {
    if (!Files.exists(file)) {
      throw Failure.badInput(CoreWords.of("common.no-such-file", file));
    }
    if (Files.isDirectory(file)) {
      throw Failure.badInput(CoreWords.of("mesh-reader.is-a-directory-name-a", file));
    }
    String name = file.getFileName().toString().toLowerCase(Locale.ROOT);
    String ending = name.substring(name.lastIndexOf('.') + 1);
    try {
      if (Files.size(file) == 0) {
        throw Failure.badInput(CoreWords.of("mesh-reader.is-empty-copy-it-again", file));
      }
      Loaded loaded =
          switch (ending) {
            case "ply" -> PlyReader.read(file, isModelled, work);
            case "obj" -> ObjReader.read(file, isModelled, work);
            case "stl" -> StlReader.read(file, work);
            case "off" -> OffReader.read(file, isModelled, work);
            default ->
                throw Failure.badInput(
                    CoreWords.of("mesh-reader.is-not-a-mesh-format", file, ending));
          };
      if (loaded.mesh().isEmpty()) {
        throw Failure.badInput(CoreWords.of("mesh-reader.holds-no-triangle-there-is", file));
      }
      return FrameFile.applied(loaded, file);
    } catch (IOException e) {
      throw new Failure(
          Failure.Kind.BAD_INPUT, CoreWords.of("common.cannot-be-read", file, reason(e)), e);
    } catch (NegativeArraySizeException e) {
      throw new Failure(
          Failure.Kind.BAD_INPUT, CoreWords.of("mesh-reader.is-larger-than-fits-in", file), e);
    }
  }

  private static String reason(IOException e) {
    return switch (e) {
      case java.nio.file.AccessDeniedException x ->
          CoreWords.of("mesh-reader.access-is-denied-check-its");
      case java.nio.file.NoSuchFileException x -> CoreWords.of("mesh-reader.it-has-vanished");
      default -> e.getMessage();
    };
  }
}
