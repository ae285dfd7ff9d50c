// The skies that come with the application: Declare=SKY=1 to 13. Clouds lie in a layer overhead, so that they draw together towards the horizon;
// they are lighter on the side towards the sun. Rendered by `render skies`, finished into ../../skies.
#version 3.7;
#ifndef(SKY) #declare SKY=1; #end
global_settings{ assumed_gamma 1.0 max_trace_level 4 }
#default{ finish{ ambient 0 diffuse 0.8 } }

#declare Billow = function{ pattern{ bozo warp{ turbulence 0.75 octaves 8 omega 0.56 lambda 2.1 } } }
#declare Streak = function{ pattern{ bozo warp{ turbulence 0.35 octaves 6 omega 0.5 lambda 2.3 } } }
#declare Ridge = function{ pattern{ bozo warp{ turbulence 0.7 octaves 6 omega 0.5 } scale 0.16 } }
#declare Away = function(Y){ 1/(max(Y,0)+0.11) }

// Zenith and horizon (sRGB), how soon one becomes the other
#macro Air(Z,H,R) #declare Zenith=Z; #declare Horizon=H; #declare Rise=R; #end
// Lit and shaded colour (linear), cover 0-1, size, place; streaks instead of billows
#macro Clouds(L,S,C,Sc,P,Str) #declare Lit=L; #declare Shade=S; #declare Cover=C; #declare Size=Sc; #declare PlaceX=P.x; #declare PlaceZ=P.z; #declare Streaks=Str; #end
// Azimuth (right is +), elevation, colour of the glow, how wide it is, how strong
#macro Sun(A,E,C,W,S) #declare SunAt=vnormalize(<sin(radians(A))*cos(radians(E)),sin(radians(E)),cos(radians(A))*cos(radians(E))>); #declare SunX=SunAt.x; #declare SunY=SunAt.y; #declare SunZ=SunAt.z; #declare Glow=C; #declare Wide=W; #declare Strong=S; #end
// Sea or hills below; colour of the land; how far up the camera looks, degrees across
#macro Below(Sea,C,Up,A) #declare IsSea=Sea; #declare Land=C; #declare LookUp=Up; #declare Across=A; #end

#switch(SKY)
#case(1) Air(srgb <0.16,0.36,0.70>,srgb <0.66,0.79,0.91>,0.9) Clouds(rgb 0.96,rgb <0.62,0.67,0.75>,0.16,0.55,<3.1,0,8.2>,0) Sun(70,48,rgb <1,0.97,0.9>,8,0.25) Below(1,srgb <0.16,0.33,0.42>,7.8,62) #break
#case(2) Air(srgb <0.22,0.40,0.66>,srgb <0.84,0.90,0.94>,0.6) Clouds(rgb <0.93,0.95,0.97>,rgb <0.70,0.75,0.82>,0.30,1.3,<1.7,0,2.6>,1) Sun(-65,30,rgb <1,0.96,0.88>,5,0.35) Below(0,srgb <0.55,0.60,0.63>,7.4,60) #break
#case(3) Air(srgb <0.19,0.40,0.70>,srgb <0.74,0.83,0.90>,0.75) Clouds(rgb 0.97,rgb <0.46,0.51,0.59>,0.46,0.62,<6.6,0,1.9>,0) Sun(-80,40,rgb <1,0.97,0.9>,6,0.3) Below(0,srgb <0.34,0.42,0.36>,8.0,64) #break
#case(4) Air(srgb <0.24,0.43,0.68>,srgb <0.80,0.86,0.90>,0.7) Clouds(rgb <0.98,0.96,0.92>,rgb <0.36,0.40,0.47>,0.62,0.9,<0.4,0,5.5>,0) Sun(85,35,rgb <1,0.95,0.84>,5,0.35) Below(1,srgb <0.20,0.32,0.38>,7.6,58) #break
#case(5) Air(srgb <0.70,0.73,0.76>,srgb <0.86,0.87,0.87>,0.9) Clouds(rgb <0.74,0.75,0.76>,rgb <0.50,0.53,0.57>,0.85,1.2,<2.2,0,7.3>,1) Sun(0,60,rgb 0.9,2,0.1) Below(1,srgb <0.44,0.48,0.50>,7.2,56) #break
#case(6) Air(srgb <0.50,0.54,0.59>,srgb <0.66,0.69,0.72>,0.8) Clouds(rgb <0.38,0.41,0.45>,rgb <0.17,0.19,0.23>,0.86,0.8,<9.4,0,3.3>,0) Sun(0,60,rgb 0.6,2,0.06) Below(1,srgb <0.27,0.30,0.33>,7.2,58) #break
#case(7) Air(srgb <0.34,0.37,0.42>,srgb <0.71,0.71,0.67>,0.5) Clouds(rgb <0.34,0.34,0.35>,rgb <0.08,0.09,0.11>,0.82,0.7,<5.8,0,9.1>,0) Sun(-50,12,rgb <0.95,0.88,0.66>,9,0.3) Below(0,srgb <0.24,0.26,0.26>,7.6,60) #break
#case(8) Air(srgb <0.40,0.43,0.56>,srgb <0.96,0.68,0.44>,0.45) Clouds(rgb <0.95,0.50,0.24>,rgb <0.30,0.19,0.24>,0.48,1.1,<4.5,0,0.8>,1) Sun(55,4,rgb <1,0.62,0.26>,14,0.75) Below(1,srgb <0.30,0.22,0.24>,7.4,58) #break
#case(9) Air(srgb <0.47,0.42,0.58>,srgb <0.96,0.66,0.60>,0.5) Clouds(rgb <0.92,0.42,0.36>,rgb <0.32,0.20,0.32>,0.52,0.8,<8.1,0,6.1>,0) Sun(-60,3,rgb <1,0.55,0.42>,12,0.6) Below(0,srgb <0.27,0.21,0.28>,7.6,60) #break
#case(10) Air(srgb <0.50,0.62,0.75>,srgb <0.96,0.88,0.74>,0.5) Clouds(rgb <0.96,0.86,0.70>,rgb <0.55,0.53,0.56>,0.36,1.4,<2.9,0,4.4>,1) Sun(-55,9,rgb <1,0.86,0.58>,10,0.7) Below(1,srgb <0.52,0.52,0.50>,7.2,58) #break
#case(11) Air(srgb <0.13,0.19,0.38>,srgb <0.48,0.50,0.60>,0.45) Clouds(rgb <0.15,0.16,0.24>,rgb <0.04,0.05,0.09>,0.40,0.9,<7.2,0,2.4>,1) Sun(60,-3,rgb <0.85,0.50,0.36>,10,0.45) Below(1,srgb <0.10,0.13,0.19>,7.4,58) #break
#case(12) Air(srgb <0.62,0.67,0.72>,srgb <0.90,0.90,0.88>,0.3) Clouds(rgb <0.82,0.83,0.83>,rgb <0.66,0.69,0.72>,0.55,1.8,<1.1,0,6.9>,1) Sun(40,22,rgb <1,0.96,0.88>,6,0.5) Below(0,srgb <0.66,0.69,0.71>,6.8,52) #break
#case(13) Air(srgb <0.30,0.34,0.47>,srgb <0.93,0.58,0.36>,0.35) Clouds(rgb <0.80,0.36,0.18>,rgb <0.10,0.09,0.13>,0.76,0.75,<3.8,0,7.7>,0) Sun(50,5,rgb <1,0.55,0.22>,16,0.6) Below(0,srgb <0.16,0.13,0.16>,7.8,62) #break
#end

#if (Streaks)
  #declare Density = function{ Streak(x*Away(y)/Size*0.55+PlaceX, 0.3, z*Away(y)/Size*1.5+PlaceZ) }
#else
  #declare Density = function{ Billow(x*Away(y)/Size+PlaceX, 0.3, z*Away(y)/Size+PlaceZ) }
#end
#declare TowardX = 0.05*SunX/sqrt(SunX*SunX+SunZ*SunZ);
#declare TowardZ = 0.05*SunZ/sqrt(SunX*SunX+SunZ*SunZ);
#declare Edge = 0.78-0.62*Cover;
// How much cloud there is, and how much of it lies in its own shade
#declare Thick = function{ min(1,max(0,(Density(x,y,z)-Edge)/0.26)) }
#declare Own = function{ min(1,max(0,Thick(x,y,z)*(0.35+5*(Density(x+TowardX,y,z+TowardZ)-Density(x,y,z)))+0.45*Thick(x,y,z)*Thick(x,y,z))) }
#macro Veil(C,From,To) color_map{ [0 rgbt <0,0,0,1>+C*<1,1,1,0,0>*1][From rgbt <0,0,0,1>+C*<1,1,1,0,0>][To rgbt <0,0,0,0.05>+C*<1,1,1,0,0>][1 rgbt <0,0,0,0>+C*<1,1,1,0,0>] } #end
sky_sphere{
  pigment{ gradient y color_map{ [0.5 color Horizon][0.5+Rise*0.16 color Horizon*0.6+Zenith*0.4][0.5+Rise*0.5 color Zenith][1 color Zenith] } scale 2 translate -y }
  pigment{ function{ pow(max(0,x*SunX+y*SunY+z*SunZ),Wide*2) } color_map{ [0 rgbt <0,0,0,1>+Glow*<1,1,1,0,0>][1 rgbt <0,0,0,1-Strong>+Glow*<1,1,1,0,0>] } }
  pigment{ function{ Thick(x,y,z) } Veil(Lit,0.02,0.75) }
  pigment{ function{ Own(x,y,z) } color_map{ [0 rgbt <0,0,0,1>+Shade*<1,1,1,0,0>][0.3 rgbt <0,0,0,0.75>+Shade*<1,1,1,0,0>][1 rgbt <0,0,0,0.06>+Shade*<1,1,1,0,0>] } }
  pigment{ function{ pow(max(0,x*SunX+y*SunY+z*SunZ),Wide*8) } color_map{ [0 rgbt <0,0,0,1>+Glow*<1,1,1,0,0>][1 rgbt <0,0,0,1-Strong*0.7>+Glow*<1,1,1,0,0>] } }
  // The air before the clouds far away
  pigment{ function{ exp(-max(y,0)*9) } color_map{ [0 rgbt <0,0,0,1>+Horizon*<1,1,1,0,0>][0.5 rgbt <0,0,0,0.75>+Horizon*<1,1,1,0,0>][1 rgbt <0,0,0,0.2>+Horizon*<1,1,1,0,0>] } }
}
camera{ perspective location <0,2.2,-17> look_at <0,LookUp,0> right x*image_width/image_height up y angle Across }
light_source{ <60,60,-60> rgb Horizon*0.7 shadowless }
height_field{ function 700,140 { 0.2+0.8*Ridge(x+SKY*1.7,y*0.3,2.1)*sin(pi*y) } smooth translate <-0.5,0,-0.5> scale <340,9,60> translate <0,-4,160>
  texture{ pigment{ granite scale 14 color_map{ [0 color Land*0.9][1 color Land*1.1] } } finish{ diffuse 0.5 emission 0.3 } } }
#if (IsSea)
  plane{ y,-0.2 texture{ pigment{ color Land*0.5 } normal{ average normal_map{ [1 bumps 0.04 scale <2,1,0.5>][1 wrinkles 0.022 scale <1,1,0.25>] } } finish{ diffuse 0.25 reflection{ 0.05,0.9 falloff 3.1 } conserve_energy } } }
#else
  plane{ y,-0.2 texture{ pigment{ granite scale 5 color_map{ [0 color Land*0.55][1 color Land*0.8] } } finish{ diffuse 0.7 emission 0.12 } } }
#end
