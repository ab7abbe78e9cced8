using System.IO.Compression;
using System.Text;

namespace Auxilium.Exchange.Tests.Files;

/// <summary>A spreadsheet written by hand, part by part, as no library of ours would.</summary>
internal sealed class Workbook
{
    private readonly List<(string Name, string Xml, bool Hidden)> _sheets = [];
    private readonly List<(string Path, string Content)> _more = [];
    private readonly List<string> _shared = [];

    public bool From1904 { get; init; }

    /// <summary>
    /// Adds a sheet of rows <c>&lt;row r="1"&gt;…&lt;/row&gt;</c>. Styles: 1 date, 2 date and time, 3 percent, 4 elapsed hours, 5 a name
    /// for the month, 6 set in once, 7 set in twice, 8 time.
    /// </summary>
    public Workbook Sheet(string name, string rows, bool hidden = false)
    {
        _sheets.Add((name, rows, hidden));
        return this;
    }

    public Workbook Shared(params string[] texts)
    {
        _shared.AddRange(texts);
        return this;
    }

    public Workbook Part(string path, string content)
    {
        _more.Add((path, content));
        return this;
    }

    public byte[] Bytes()
    {
        var stream = new MemoryStream();
        using (var zip = new ZipArchive(stream, ZipArchiveMode.Create, leaveOpen: true))
        {
            Add(zip, "[Content_Types].xml", Types());
            Add(zip, "_rels/.rels", Relations($"""<Relationship Id="r" Type="{Office}/officeDocument" Target="xl/workbook.xml"/>"""));
            Add(
                zip,
                "xl/workbook.xml",
                $"""<workbook xmlns="{Main}" xmlns:r="{Office}"><workbookPr{(From1904 ? " date1904=\"1\"" : "")}/><sheets>"""
                    + string.Concat(
                        _sheets.Select(
                            (s, i) => $"""<sheet name="{s.Name}" sheetId="{i + 1}"{(s.Hidden ? " state=\"hidden\"" : "")} r:id="s{i}"/>"""
                        )
                    )
                    + "</sheets></workbook>"
            );
            Add(
                zip,
                "xl/_rels/workbook.xml.rels",
                Relations(
                    string.Concat(
                        _sheets.Select(
                            (_, i) => $"""<Relationship Id="s{i}" Type="{Office}/worksheet" Target="worksheets/sheet{i}.xml"/>"""
                        )
                    )
                        + $"""<Relationship Id="st" Type="{Office}/styles" Target="styles.xml"/>"""
                        + $"""<Relationship Id="ss" Type="{Office}/sharedStrings" Target="sharedStrings.xml"/>"""
                )
            );
            for (var i = 0; i < _sheets.Count; i++)
                Add(
                    zip,
                    $"xl/worksheets/sheet{i}.xml",
                    $"""<worksheet xmlns="{Main}"><sheetData>{_sheets[i].Xml}</sheetData></worksheet>"""
                );
            Add(zip, "xl/sharedStrings.xml", $"""<sst xmlns="{Main}">{string.Concat(_shared.Select(text => $"<si>{text}</si>"))}</sst>""");
            Add(zip, "xl/styles.xml", Styles);
            foreach (var (path, content) in _more)
                Add(zip, path, content);
        }
        return stream.ToArray();
    }

    private const string Main = "http://schemas.openxmlformats.org/spreadsheetml/2006/main";
    private const string Office = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";

    private const string Styles = $"""
        <styleSheet xmlns="{Main}"><numFmts count="3"><numFmt numFmtId="164" formatCode="[h]:mm"/><numFmt numFmtId="165"
        formatCode="dd\-mmm\-yyyy;@"/><numFmt numFmtId="166" formatCode="&quot;day &quot;0"/></numFmts><fonts><font/></fonts>
        <fills><fill/></fills>
        <borders><border/></borders><cellXfs><xf numFmtId="0"/><xf numFmtId="14"/><xf numFmtId="22"/><xf numFmtId="9"/><xf numFmtId="164"/>
        <xf numFmtId="165"/><xf numFmtId="0"><alignment indent="1"/></xf><xf numFmtId="0"><alignment indent="2"/></xf><xf numFmtId="20"/>
        <xf numFmtId="166"/></cellXfs></styleSheet>
        """;

    private string Types() =>
        """<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" """
        + """ContentType="application/vnd.openxmlformats-package.relationships+xml"/>"""
        + """<Default Extension="xml" ContentType="application/xml"/>"""
        + """<Default Extension="bin" ContentType="application/octet-stream"/>"""
        + Override("/xl/workbook.xml", "sheet.main")
        + Override("/xl/styles.xml", "styles")
        + Override("/xl/sharedStrings.xml", "sharedStrings")
        + string.Concat(_sheets.Select((_, i) => Override($"/xl/worksheets/sheet{i}.xml", "worksheet")))
        + "</Types>";

    private static string Override(string part, string kind) =>
        $"""<Override PartName="{part}" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.{kind}+xml"/>""";

    private static string Relations(string inside) =>
        $"""<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">{inside}</Relationships>""";

    private static void Add(ZipArchive zip, string path, string content)
    {
        using var to = new StreamWriter(zip.CreateEntry(path).Open(), new UTF8Encoding(false));
        to.Write(content);
    }
}
