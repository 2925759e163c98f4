package ebb.connectors.file;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Set;
import java.util.zip.ZipEntry;
import java.util.zip.ZipException;
import java.util.zip.ZipFile;

/** Files that belong together, in one ZIP archive. */
public final class Bundle {
  /** As many pictures as the largest organisations have people here. */
  static final int MOST_FILES = 200_000;

  static final long LARGEST_UNPACKED = 4L << 30;

  /** What programs leave in archives, which nobody put there. */
  private static final Set<String> LEFT_BY_PROGRAMS = Set.of("thumbs.db", "desktop.ini");

  /** Whether a file is an archive, and no workbook, which is one inside too. */
  public static boolean isOne(Path file) throws IOException {
    try (var in = Files.newInputStream(file)) {
      var head = in.readNBytes(4);
      if (head.length < 4 || head[0] != 'P' || head[1] != 'K' || head[2] != 3 || head[3] != 4) {
        return false;
      }
    }
    try (var zip = new ZipFile(file.toFile())) {
      return zip.getEntry("xl/workbook.xml") == null;
    } catch (ZipException _) {
      // Damaged; whoever reads it as a workbook says so.
      return false;
    }
  }

  /**
   * Unpacks all files into one folder, whatever folders they were in.
   *
   * @param name what the operator calls the archive
   * @throws ebb.core.problem.Refusal if it holds too much, or two files of one name
   */
  public static void unpack(Path file, String name, Path folder) throws IOException {
    unpack(file, name, folder, Unpacked.most(file, LARGEST_UNPACKED));
  }

  static void unpack(Path file, String name, Path folder, long most) throws IOException {
    long left = most;
    int files = 0;
    try (var zip = new ZipFile(file.toFile())) {
      for (var entries = zip.entries(); entries.hasMoreElements(); ) {
        var entry = entries.nextElement();
        var called = lastName(entry);
        if (isWanted(entry, called)) {
          if (++files > MOST_FILES) {
            throw Amiss.tooManyFiles(name, MOST_FILES);
          }
          var one = unpack(zip, entry, folder.resolve(called), left);
          if (one > left) {
            throw Amiss.swells(name, most);
          }
          left -= one;
        }
      }
    } catch (ZipException e) {
      throw Amiss.notArchive(name, e.getMessage());
    } catch (FileAlreadyExistsException e) {
      throw Amiss.nameDoubled(name, Path.of(e.getFile()).getFileName().toString());
    }
    if (files == 0) {
      throw Amiss.empty(name);
    }
  }

  /** Unpacks one file, no further than just beyond what is left. */
  private static long unpack(ZipFile zip, ZipEntry entry, Path to, long left) throws IOException {
    long total = 0;
    var buffer = new byte[64 * 1024];
    // What an archive says of its own sizes is not to be trusted.
    try (InputStream in = zip.getInputStream(entry);
        OutputStream out = Files.newOutputStream(to, StandardOpenOption.CREATE_NEW)) {
      for (int read = in.read(buffer); read >= 0 && total <= left; read = in.read(buffer)) {
        total += read;
        out.write(buffer, 0, read);
      }
    }
    return total;
  }

  private static boolean isWanted(ZipEntry entry, String called) {
    return !entry.isDirectory()
        && !called.isEmpty()
        && !called.startsWith(".")
        && !entry.getName().startsWith("__MACOSX/")
        && !LEFT_BY_PROGRAMS.contains(called.toLowerCase(java.util.Locale.ROOT));
  }

  /** The name without its folders: none can lead out of where it is unpacked. */
  private static String lastName(ZipEntry entry) {
    var path = entry.getName().replace('\\', '/');
    return path.substring(path.lastIndexOf('/') + 1).replace('\0', '_');
  }

  private Bundle() {}
}
