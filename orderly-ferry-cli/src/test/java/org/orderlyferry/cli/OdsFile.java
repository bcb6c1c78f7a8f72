package org.orderlyferry.cli;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;

/** Spreadsheets of OpenDocument, element by element. */
final class OdsFile {

    private static final String URN = "urn:oasis:names:tc:opendocument:xmlns:";

    private OdsFile() {}

    /**
     * Writes a file.
     *
     * @param sheets the elements of its sheets
     * @param manifest the elements of its manifest
     */
    static Path write(Path file, String sheets, String manifest) throws IOException {
        try (ZipOutputStream zip = new ZipOutputStream(Files.newOutputStream(file))) {
            part(zip, "mimetype", "application/vnd.oasis.opendocument.spreadsheet");
            part(
                    zip,
                    "META-INF/manifest.xml",
                    "<m:manifest xmlns:m='" + URN + "manifest:1.0'>" + manifest + "</m:manifest>");
            part(
                    zip,
                    "content.xml",
                    "<o:document-content xmlns:o='" + URN + "office:1.0' xmlns:t='" + URN + "table:1.0' xmlns:x='"
                            + URN
                            + "text:1.0' xmlns:c='urn:org:documentfoundation:names:experimental:calc:xmlns:calcext:1.0'>"
                            + "<o:body><o:spreadsheet><t:tracked-changes><t:table t:name='no'/></t:tracked-changes>"
                            + sheets + "</o:spreadsheet></o:body></o:document-content>");
        }
        return file;
    }

    private static void part(ZipOutputStream zip, String name, String content) throws IOException {
        zip.putNextEntry(new ZipEntry(name));
        zip.write(content.getBytes(StandardCharsets.UTF_8));
    }

    static String sheet(String name, String rows) {
        return "<t:table t:name='" + name + "'><t:table-column/>" + rows + "</t:table>";
    }

    static String row(String... cells) {
        return "<t:table-row>" + String.join("", cells) + "</t:table-row>";
    }

    static String text(String content) {
        return "<t:table-cell o:value-type='string'><x:p>" + content + "</x:p></t:table-cell>";
    }

    static String cell(String type, String attribute, String value) {
        return "<t:table-cell o:value-type='" + type + "' o:" + attribute + "='" + value + "'><x:p>shown</x:p>"
                + "</t:table-cell>";
    }
}
