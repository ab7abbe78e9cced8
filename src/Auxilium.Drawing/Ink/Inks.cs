using SkiaSharp;

namespace Auxilium.Drawing.Ink;

/// <summary>
/// Colours by what they mean, as those of the screen. What differs in meaning differs in shape too, so that a sheet can be read in black
/// and white.
/// </summary>
public sealed record Inks(
    SKColor Paper,
    SKColor Band,
    SKColor Text,
    SKColor Mute,
    SKColor Line,
    SKColor Work,
    SKColor WorkSoft,
    SKColor Tray,
    SKColor TrayLine,
    SKColor FinishPath,
    SKColor Late,
    SKColor Done,
    SKColor Today,
    SKColor TodaySoft,
    SKColor Hatch,
    SKColor Planned
)
{
    public static Inks Colour { get; } =
        new(
            Paper: SKColors.White,
            Band: SKColor.Parse("#f3efe6"),
            Text: SKColor.Parse("#1e2b33"),
            Mute: SKColor.Parse("#5a6670"),
            Line: SKColor.Parse("#ddd6c6"),
            Work: SKColor.Parse("#17636c"),
            WorkSoft: SKColor.Parse("#d3e4e2"),
            Tray: SKColor.Parse("#eef3f0"),
            TrayLine: SKColor.Parse("#a9c3c0"),
            FinishPath: SKColor.Parse("#7d2a5d"),
            Late: SKColor.Parse("#b0371a"),
            Done: SKColor.Parse("#7f9a83"),
            Today: SKColor.Parse("#eab14c"),
            TodaySoft: SKColor.Parse("#faf0d9"),
            Hatch: SKColor.Parse("#e3d8c2"),
            Planned: SKColor.Parse("#6b5a3a")
        );

    /// <summary>For a printer that has one ink.</summary>
    public static Inks BlackAndWhite { get; } =
        new(
            Paper: SKColors.White,
            Band: SKColor.Parse("#f2f2f2"),
            Text: SKColors.Black,
            Mute: SKColor.Parse("#4a4a4a"),
            Line: SKColor.Parse("#cfcfcf"),
            Work: SKColor.Parse("#3a3a3a"),
            WorkSoft: SKColor.Parse("#e2e2e2"),
            Tray: SKColor.Parse("#f5f5f5"),
            TrayLine: SKColor.Parse("#a5a5a5"),
            FinishPath: SKColors.Black,
            Late: SKColors.Black,
            Done: SKColor.Parse("#9a9a9a"),
            Today: SKColor.Parse("#c8c8c8"),
            TodaySoft: SKColor.Parse("#ececec"),
            Hatch: SKColor.Parse("#d5d5d5"),
            Planned: SKColor.Parse("#5a5a5a")
        );
}
