package org.orderlyferry.dist;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.Map;
import java.util.TreeMap;
import javax.xml.parsers.DocumentBuilderFactory;
import org.junit.jupiter.api.Test;
import org.w3c.dom.Document;
import org.w3c.dom.Element;
import org.w3c.dom.NodeList;

/** The bill of materials has no parent, so nothing but this holds its versions to those that everything is tried with. */
class BillOfMaterialsTest {

    private static Document read(String module) throws Exception {
        return DocumentBuilderFactory.newInstance()
                .newDocumentBuilder()
                .parse(Path.of("..", module, "pom.xml").toFile());
    }

    private static String text(Element of, String name) {
        return of.getElementsByTagName(name).item(0).getTextContent();
    }

    /** Versions of managed packages, properties filled in. */
    private static Map<String, String> managed(Document pom) {
        Element root = pom.getDocumentElement();
        Map<String, String> versions = new TreeMap<>();
        NodeList all = ((Element)
                        root.getElementsByTagName("dependencyManagement").item(0))
                .getElementsByTagName("dependency");
        for (int i = 0; i < all.getLength(); i++) {
            Element one = (Element) all.item(i);
            String version = text(one, "version");
            if (version.startsWith("${project.")) {
                version = "this one";
            } else if (version.startsWith("${")) {
                version = text(root, version.substring(2, version.length() - 1));
            }
            versions.put(text(one, "groupId") + ":" + text(one, "artifactId"), version);
        }
        return versions;
    }

    @Test
    void itsVersionsAreThoseThatAreBuiltWith() throws Exception {
        Document bom = read("orderly-ferry-bom");
        Document parent = read(".");
        assertThat(text(bom.getDocumentElement(), "version")).isEqualTo(text(parent.getDocumentElement(), "version"));
        assertThat(managed(parent)).containsAllEntriesOf(managed(bom));
        assertThat(managed(bom)).containsKeys("org.orderlyferry:orderly-ferry-core", "org.postgresql:postgresql");
    }
}
